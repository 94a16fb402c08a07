"""The families of assemblies, a folder each: subject, facts, set-ups, findings, remedies, parts, routes,
fit-up.

A folder's own record says what stands where in it (`core/register.py`). A family
imports the engines and never another family.
"""

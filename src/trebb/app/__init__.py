"""Everything Qt: the frame, the eight stops, the indicator pod, figures, theme. The only room that imports
PySide6.
"""

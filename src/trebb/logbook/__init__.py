"""The logbook is the truth: a job is a file of entries that are only ever appended.

*Entry*: one recorded gesture or part of one. *Job*: the fold of the entries.
*Gesture*: entries that were appended together and are undone together.
May import `trebb.core`; knows nothing of Qt.
"""

from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.fold import Job
from trebb.logbook.log.fold_log import Reading

__all__ = ["Job", "JobFile", "JobFileError", "Reading"]

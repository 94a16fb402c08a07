"""Everything Qt: the frame, the eight stops, the indicator pod, figures, theme. The only room that imports
PySide6.
"""

import datetime

from trebb.core import clock

clock.give(lambda: datetime.datetime.now(datetime.UTC))

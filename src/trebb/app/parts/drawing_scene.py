"""A part's drawing as a Qt scene, rendered by ezdxf's drawing add-on in our own face."""

from __future__ import annotations

import contextlib
import io
from typing import Any

from PySide6.QtCore import QRectF
from PySide6.QtWidgets import QGraphicsScene

from trebb.app.look import theme

_fonts_ready = False


def ready_fonts() -> None:
    """Give ezdxf our shipped face and no other."""
    global _fonts_ready
    if not _fonts_ready:
        from ezdxf.fonts import font_manager, fonts

        font_manager.DEFAULT_FONTS[:] = [
            "BarlowSemiCondensed-Medium.ttf"
        ]  # without a fallback of ours every text is an error
        fonts.font_manager.clear()
        fonts.font_manager.build([str(theme.FONT_FOLDER)], support_dirs=False)
        _fonts_ready = True


def plain_config(background: str, *, with_words: bool = True) -> Any:
    """How a drawing is rendered on a ground of that colour, "#rrggbb". ezdxf draws words as outlines: without
    them where they are written as text, to be searched and copied.
    """
    from ezdxf.addons.drawing import config

    return config.Configuration(
        text_policy=config.TextPolicy.FILLING if with_words else config.TextPolicy.IGNORE,
        background_policy=config.BackgroundPolicy.CUSTOM,
        custom_bg_color=background,
        lineweight_scaling=1.0,
        min_lineweight=0.13,
    )


def scene_of(doc: Any, background: str, *, with_words: bool = True) -> QGraphicsScene:
    """The document as a Qt scene."""
    ready_fonts()
    from ezdxf.addons.drawing import Frontend, RenderContext

    with contextlib.redirect_stdout(io.StringIO()):  # it greets at its first import; what is printed is data
        from ezdxf.addons.drawing.pyqt import PyQtBackend

    scene = QGraphicsScene()
    backend = PyQtBackend(scene)
    Frontend(RenderContext(doc), backend, config=plain_config(background, with_words=with_words)).draw_layout(
        doc.modelspace()
    )
    low, high = doc.header["$LIMMIN"], doc.header["$LIMMAX"]  # the sheet
    scene.setSceneRect(QRectF(low[0], low[1], high[0] - low[0], high[1] - low[1]))
    return scene

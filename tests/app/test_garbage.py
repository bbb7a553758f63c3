"""Where what is unreachable is let go."""

from __future__ import annotations

import gc
import threading

from PySide6.QtWidgets import QApplication, QWidget

from oak_square.app.window import Window


class Ring:
    """Unreachable once nobody names it, and only the garbage collection finds that out."""

    def __init__(self, ended) -> None:
        self.widget, self.ring, self.ended = QWidget(), self, ended

    def __del__(self) -> None:
        self.ended.append(threading.current_thread())


def test_no_widget_goes_on_a_thread_that_reads(hand):
    ended = []
    gc.collect()
    Ring(ended)
    made = []
    # As many objects as make the interpreter collect, which it does where they are made.
    reader = threading.Thread(target=lambda: made.extend([] for _ in range(10 * gc.get_threshold()[0])))
    reader.start()
    reader.join()
    assert not ended
    hand.qtbot.waitUntil(lambda: len(ended) == 1)
    assert ended == [threading.main_thread()]


def test_the_interpreter_has_its_turn_again_once_the_window_is_closed(hand):
    assert not gc.isenabled()
    hand.window.close()
    assert gc.isenabled()


def test_a_window_test_leaves_nothing_to_the_next(hand):
    assert [w for w in QApplication.topLevelWidgets() if isinstance(w, Window)] == [hand.window]

"""The real window with short ways to the pages that tests drive."""

from __future__ import annotations

from chapto.app.footage.page import FootagePage
from chapto.app.footage_analysis import FootageAnalysis
from chapto.app.log.page import LogPage
from chapto.app.publish.page import PublishPage
from chapto.app.window import Window
from chapto.app.write.page import WritePage
from chapto.review.work import Stage


class DrivenWindow(Window):
    """Nothing else is different."""

    @property
    def footage_page(self) -> FootagePage:
        return self.stages[Stage.FOOTAGE].page  # type: ignore[return-value]

    @property
    def log_page(self) -> LogPage:
        return self.stages[Stage.LOG].page  # type: ignore[return-value]

    @property
    def write_page(self) -> WritePage:
        return self.stages[Stage.WRITE].page  # type: ignore[return-value]

    @property
    def publish_page(self) -> PublishPage:
        return self.stages[Stage.PUBLISH].page  # type: ignore[return-value]

    @property
    def desk(self) -> FootageAnalysis:
        return self.facts

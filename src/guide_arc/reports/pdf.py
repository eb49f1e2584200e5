"""PDF from HTML, without fetching anything: all that a page shows is in it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from weasyprint import Document

# WeasyPrint is slow to load, and needed only where a page is written.


def laid_out(html: str) -> Document:
    """A page as a PDF prints it. External references are left out: nothing is
    fetched, from a disk or a network."""
    from weasyprint import HTML  # noqa: PLC0415
    from weasyprint.text.fonts import FontConfiguration  # noqa: PLC0415
    from weasyprint.urls import URLFetcher  # noqa: PLC0415

    class OnlyWithin(URLFetcher):  # type: ignore[misc]
        def fetch(self, url: str, headers: Any = None) -> Any:
            if not url.startswith("data:"):
                raise ValueError("a page holds all that it shows")
            return super().fetch(url, headers)

    page = HTML(string=html, base_url=None, url_fetcher=OnlyWithin())
    return page.render(font_config=FontConfiguration())


def pdf_of(html: str) -> bytes:
    """A page as PDF; see `laid_out`."""
    pdf: bytes | None = laid_out(html).write_pdf()
    assert pdf is not None
    return pdf

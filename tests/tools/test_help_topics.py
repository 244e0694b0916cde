"""What F1 opens from the page is there: pages of the documentation, and sections by the names that they get."""

import re
from pathlib import Path

from markdown.extensions.toc import slugify

ROOT = Path(__file__).parents[2]
NAMED = re.compile(r"""data-help="([^"$`?]+)"|page: '([\w/]+\.html[^']*)'|'([\w/]+\.html(?:#[\w-]+)?)'""")


def topics() -> set[str]:
    sources = [*(ROOT / "web/src").rglob("*.vue"), *(ROOT / "web/src").rglob("*.ts")]
    texts = [path.read_text("utf-8") for path in sources if ".test." not in path.name]
    return {name for text in texts for found in NAMED.findall(text) for name in found if ".html" in name}


def test_every_page_and_section_that_f1_opens_is_there() -> None:
    found = topics()
    assert len(found) > 15
    for topic in sorted(found):
        page, _, section = topic.removeprefix("/docs/").partition("#")
        path = ROOT / "docs" / page.replace(".html", ".md")
        if path.name == "index.md" and not path.exists():
            path = path.with_name("README.md")
        assert path.is_file(), topic
        heads = re.findall(r"^#+ (.+)$", path.read_text("utf-8"), re.MULTILINE)
        assert not section or section in {slugify(head, "-") for head in heads}, topic

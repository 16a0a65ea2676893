"""What a PDF says of itself: layers that can be switched, bookmarks, title, author, subject."""

import base64
import re
import zlib

import pypdfium2

from holoptic.exchange.pdf import pdf_bytes, pdf_pages
from holoptic.sheet.drawing import Drawing, Ink, PageMark, Region, Words
from holoptic.sheet.layers import LAYERS

MM_A_POINT = 25.4 / 72

LINE = ((20.5, 31.25), (61.0, 40.0))


def page(title="gallery block", layers=("visible", "dimension", "hidden"), marks=()):
    inks = tuple(Ink(layer, LINE) for layer in layers)
    square = ((10.0, 10.0), (14.0, 10.0), (14.0, 13.0), (10.0, 10.0))
    return Drawing(
        210.0, 148.5, inks, (Words((30.0, 50.0), "43.5", layer="dimension"),), title,
        (Region("dimension", (square,)),), author="A. Rook", subject="SLW-101, 1:1", marks=marks,
    )  # fmt: skip


def streams(data):
    """Return the drawing commands of each page."""
    found = re.findall(rb"/ASCII85Decode /FlateDecode \].*?stream\r?\n(.*?)endstream", data, re.S)
    texts = [zlib.decompress(base64.a85decode(raw.strip(), adobe=False) if not
             raw.strip().endswith(b"~>") else base64.a85decode(b"<~" + raw.strip(), adobe=True))
             for raw in found]  # fmt: skip
    return [text for text in texts if b"BDC" in text]


def test_each_layer_of_the_drawing_is_one_of_the_file():
    data = pdf_bytes(page())
    (commands,) = streams(data)
    opened = re.findall(rb"/OC /(\w+) BDC", commands)
    assert len(opened) == commands.count(b"EMC") >= 4
    groups = re.findall(rb"/Name \((.*?)\) /Type /OCG", data, re.S)
    assert {name.decode() for name in groups} == {
        LAYERS[layer].meaning for layer in ("visible", "dimension", "hidden")
    }
    named = re.search(rb"/Properties <<(.*?)>>", data, re.S).group(1)
    assert all(b"/" + name in named for name in set(opened))
    assert b"/OCProperties" in data
    depth = 0
    for word in re.findall(rb"BDC|EMC", commands):
        depth += 1 if word == b"BDC" else -1
        assert depth in (0, 1)


def test_title_author_and_subject_stand_in_the_file():
    said = pypdfium2.PdfDocument(pdf_bytes(page())).get_metadata_dict()
    assert (said["Title"], said["Author"], said["Subject"]) == (
        "gallery block", "A. Rook", "SLW-101, 1:1",
    )  # fmt: skip


def test_bookmarks_lead_to_pages_and_to_the_drawings_on_them():
    marks = (PageMark("isometric drawing", (20.0, 30.0, 90.0, 80.0)),
             PageMark("third-angle views", (100.0, 30.0, 190.0, 90.0)))  # fmt: skip
    document = pypdfium2.PdfDocument(
        pdf_pages([page("block", marks=marks), page("ring"), page("ring"), page("cone")])
    )
    toc = [(b.level, b.get_title(), b.get_dest().get_index()) for b in document.get_toc()]
    assert toc == [
        (0, "block", 0), (1, "isometric drawing", 0), (1, "third-angle views", 0), (0, "ring", 1),
        (0, "cone", 3),
    ]  # fmt: skip
    inner = list(document.get_toc())[2].get_dest().get_view()[1]
    mm = 72 / 25.4
    assert [round(value / mm, 2) for value in sorted(inner)] == [30.0, 90.0, 100.0, 190.0]


def test_equal_drawings_make_equal_files():
    assert pdf_bytes(page()) == pdf_bytes(page())


def test_letters_that_the_lettering_lacks_are_lent_by_another_font():
    text = "płyta Жук 26.5 …"
    rows = [Words((60, 20), text, 5.0, anchor) for anchor in ("start", "middle", "end")]
    rows.append(Words((60, 60), text, 5.0, "middle", along_deg=30.0))
    rows.append(Words((5, 40), "plate 26.5", 5.0))
    drawings = [Drawing(120, 80, (), (words,), "p") for words in rows]
    pages = pypdfium2.PdfDocument(pdf_pages(drawings))
    assert [page.get_textpage().get_text_range() for page in pages] == [text] * 4 + ["plate 26.5"]
    lefts, rights = [], []
    for page in list(pages)[:3]:
        at = page.get_textpage()
        boxes = [at.get_charbox(k) for k in range(len(text)) if text[k] != " "]
        lefts.append(min(box[0] for box in boxes) * MM_A_POINT)
        rights.append(max(box[2] for box in boxes) * MM_A_POINT)
    assert abs(lefts[0] - 60) < 1
    assert abs((lefts[1] + rights[1]) / 2 - 60) < 1
    assert abs(rights[2] - 60) < 1

"""Photos and sheets: what comes in is read, made small and stripped; what is no picture is refused; the sheet is one page."""

from __future__ import annotations

import io
import unittest
from contextlib import closing
from uuid import uuid4

from PIL import Image
from PIL.ExifTags import GPS, IFD, Base

from redframe.core.errors import InvalidInput
from redframe.demo.scenario import made_id
from redframe.outlets import pictures
from redframe.outlets.pictures import LONGEST_SIDE, read_picture
from tests.api.test_roles import picture
from tests.support import Server, owner_rows


def with_a_place() -> bytes:
    """A photo taken lying down, with the place where it was taken."""
    exif = Image.Exif()
    exif[Base.Orientation] = 6
    exif[Base.Make] = "a camera"
    exif.get_ifd(IFD.GPSInfo)[GPS.GPSLatitude] = (44.0, 13.0, 15.6)
    return picture(400, 200, exif=exif)


class Pictures(unittest.TestCase):
    def test_the_place_is_dropped(self) -> None:
        """Nothing of the file's own words is kept; a photo taken lying down stands upright."""
        given = with_a_place()
        self.assertIn(IFD.GPSInfo, dict(Image.open(io.BytesIO(given)).getexif()))
        kept = read_picture(given)
        for content in (kept.jpeg, kept.thumbnail):
            with Image.open(io.BytesIO(content)) as opened:
                self.assertEqual(dict(opened.getexif()), {})
                self.assertNotIn("exif", opened.info)
        self.assertEqual((kept.width, kept.height), (200, 400))

    def test_large_ones_are_made_small(self) -> None:
        """No side is longer than the limit, the shape stays, PNG becomes JPEG."""
        kept = read_picture(picture(3000, 1500, "PNG"))
        self.assertEqual((kept.width, kept.height), (LONGEST_SIDE, LONGEST_SIDE // 2))
        with Image.open(io.BytesIO(kept.jpeg)) as opened:
            self.assertEqual(opened.format, "JPEG")

    def test_what_is_no_picture_is_refused(self) -> None:
        """Text, a cut-off file, a GIF, an empty file, one over the limit: at the photo, in words."""
        gif = io.BytesIO()
        Image.new("P", (4, 4)).save(gif, "GIF")
        whole = picture(800, 800)
        for content in (
            b"<svg onload=alert(1)>",
            whole[: len(whole) // 3],
            gif.getvalue(),
            b"",
            b"\xff" * (pictures.MOST_BYTES + 1),
        ):
            with self.subTest(size=len(content)), self.assertRaises(InvalidInput) as caught:
                read_picture(content)
            self.assertEqual(caught.exception.field, "photo")


class PhotosOfAVisit(unittest.TestCase):
    def test_kept_once_and_shown(self) -> None:
        """Sent twice it is one; it comes back as JPEG; a fake is refused at its field; another keeper does not find it."""
        server = Server()
        self.addCleanup(server.stop)
        visit = owner_rows(
            server.owner_url, "SELECT id FROM visit WHERE colony_id = %s AND closed_at IS NOT NULL ORDER BY visited_on DESC",
            made_id("corrane", "Kettle Wood", "K1"),
        )[0][0]  # fmt: skip
        photo = uuid4()
        with closing(server.sign_in()) as mentor, closing(server.sign_in("keeper@corrane.example")) as keeper:
            for _ in range(2):
                kept = mentor.put(f"/api/v1/visits/{visit}/photos/{photo}", content=with_a_place())
                self.assertEqual([one["id"] for one in kept.json()], [str(photo)])
            shown = mentor.get(f"/api/v1/photos/{photo}")
            self.assertEqual(shown.headers["content-type"], "image/jpeg")
            with Image.open(io.BytesIO(shown.content)) as opened:
                self.assertEqual(opened.size, (200, 400))
            fake = mentor.put(f"/api/v1/visits/{visit}/photos/{uuid4()}", content=b"GIF89a nothing")
            self.assertEqual((fake.status_code, fake.json()["errors"][0]["field"]), (422, "photo"))
            self.assertEqual(keeper.get(f"/api/v1/photos/{photo}").status_code, 404)
            sheet = mentor.get(f"/api/v1/visits/{visit}/sheet.pdf")
            self.assertTrue(sheet.content.startswith(b"%PDF-"))
            self.assertEqual(sheet.content.count(b"/Type /Page\n"), 1, "one page")
            self.assertEqual(keeper.get(f"/api/v1/visits/{visit}/sheet.pdf").status_code, 404)


if __name__ == "__main__":
    unittest.main()

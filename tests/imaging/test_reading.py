"""Files of all kinds, honest, broken and lying."""

from __future__ import annotations

import io
import struct
import unittest
import zlib

import numpy as np
import pillow_heif
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from imaging import reading
from imaging.errors import CutShort, NotAPicture, PictureError, TooLarge
from imaging.exif import exif_of
from tests.imaging import drawn

LIGHT = drawn.edge(4.0, 8.0, (160, 120))


def negative(light: drawn.Picture) -> bytes:
    """A digital negative with nothing but what must be in one: 16 bits, a mosaic of three
    colours."""
    rows, columns = light.shape
    strip = np.rint(np.clip(light, 0, 1) * 65535).astype("<u2").tobytes()
    tags: list[tuple[int, int, int, bytes]] = [
        (254, 4, 1, struct.pack("<I", 0)), (256, 4, 1, struct.pack("<I", columns)),
        (257, 4, 1, struct.pack("<I", rows)), (258, 3, 1, struct.pack("<HH", 16, 0)),
        (259, 3, 1, struct.pack("<HH", 1, 0)), (262, 3, 1, struct.pack("<HH", 32803, 0)),
        (273, 4, 1, b"here"), (274, 3, 1, struct.pack("<HH", 1, 0)),
        (277, 3, 1, struct.pack("<HH", 1, 0)), (278, 4, 1, struct.pack("<I", rows)),
        (279, 4, 1, struct.pack("<I", len(strip))),
        (33421, 3, 2, struct.pack("<HH", 2, 2)), (33422, 1, 4, bytes((0, 1, 1, 2))),
        (50706, 1, 4, bytes((1, 4, 0, 0))), (50708, 2, 8, b"Made up\0"),
        (50721, 10, 9, b"".join(struct.pack("<ii", one, 1) for one in (1, 0, 0, 0, 1, 0, 0, 0, 1))),
    ]  # fmt: skip
    start = 8 + 2 + 12 * len(tags) + 4
    later, entries = b"", b""
    for tag, kind, count, value in tags:
        if len(value) > 4:
            entries += struct.pack("<HHII", tag, kind, count, start + len(later))
            later += value
        else:
            entries += struct.pack("<HHI", tag, kind, count) + value.ljust(4, b"\0")
    entries = entries.replace(b"here", struct.pack("<I", start + len(later)))
    head = b"II*\0" + struct.pack("<IH", 8, len(tags))
    return head + entries + b"\0\0\0\0" + later + strip


class KindsTest(unittest.TestCase):
    def test_every_kind_gives_the_light_that_was_put_in(self) -> None:
        deep = io.BytesIO()
        curve = np.where(LIGHT <= 0.0031308, 12.92 * LIGHT, 1.055 * LIGHT ** (1 / 2.4) - 0.055)
        Image.fromarray((curve * 65535).astype(np.uint16)).save(deep, "TIFF")
        heic = io.BytesIO()
        pillow_heif.from_pillow(Image.fromarray(drawn.coded(LIGHT))).save(heic, quality=95)
        kinds = {
            "JPEG": drawn.file(LIGHT),
            "PNG": drawn.file(LIGHT, "PNG"),
            "TIFF": drawn.file(LIGHT, "TIFF"),
            "WebP": drawn.file(LIGHT, "WEBP", lossless=True),
            "HEIC": heic.getvalue(),
            "grey TIFF of 16 bits": deep.getvalue(),
        }
        for kind, raw in kinds.items():
            with self.subTest(kind):
                read = reading.read(raw)
                self.assertEqual(read.size, (160, 120))
                self.assertEqual(read.luminance.dtype, np.float32)
                self.assertLess(float(np.abs(read.luminance - LIGHT).mean()), 0.004)

    def test_what_the_sensor_saw_is_developed_without_a_curve(self) -> None:
        read = reading.read(negative(LIGHT))
        inner = (slice(8, -8), slice(8, -8))
        off = read.luminance[inner] - LIGHT[inner]
        self.assertLess(float(np.abs(off).mean()), 0.03)

    def test_it_stands_upright_as_the_camera_was_held(self) -> None:
        half = np.concatenate((np.full((40, 120), 0.6), np.full((80, 120), 0.05)))  # light above
        for tag, back in ((1, 0), (3, 2), (6, 1), (8, 3)):
            with self.subTest(tag):
                exif = Image.Exif()
                exif[274] = tag
                stored = np.rot90(half, back)
                read = reading.read(drawn.file(np.ascontiguousarray(stored), exif=exif))
                self.assertGreater(float(read.luminance[:30].mean()), 0.5)
                self.assertLess(float(read.luminance[-60:].mean()), 0.1)


class BrokenTest(unittest.TestCase):
    def test_broken_files_are_refused_by_name(self) -> None:
        jpeg = drawn.file(LIGHT)
        bomb = io.BytesIO()
        Image.new("1", (40_000, 20_000)).save(bomb, "PNG")
        claims = bytearray(drawn.file(LIGHT, "PNG"))
        claims[16:24] = struct.pack(">II", 25_000, 25_000)
        claims[29:33] = struct.pack(">I", zlib.crc32(claims[12:29]))
        cases: list[tuple[bytes, type[PictureError]]] = [
            (b"", NotAPicture), (b"Not a picture, but a letter.", NotAPicture),
            (jpeg[: len(jpeg) // 2], CutShort), (jpeg[:300], PictureError),
            (bomb.getvalue(), TooLarge), (bytes(claims), TooLarge),
            (drawn.file(LIGHT[:8, :8]), PictureError),
            (negative(LIGHT)[:900], PictureError), (b"II*\0" + bytes(500), PictureError),
        ]  # fmt: skip
        for at, (raw, error) in enumerate(cases):
            with self.subTest(at), self.assertRaises(error) as raised:
                reading.read(raw)
            self.assertTrue(raised.exception.sentence.endswith("."))

    def test_no_broken_byte_breaks_the_reader(self) -> None:
        luck = np.random.default_rng(11)
        for kind in ("JPEG", "PNG", "TIFF", "WEBP"):
            good = drawn.file(LIGHT, kind)
            for _ in range(40):
                raw = bytearray(good)
                for at in luck.integers(0, min(len(raw), 900), 6):
                    raw[at] = int(luck.integers(256))
                try:
                    light = reading.read(bytes(raw)).luminance
                except PictureError:
                    continue
                self.assertTrue(np.isfinite(light).all())


class ExifTest(unittest.TestCase):
    def said(self, **values: object) -> bytes:
        exif = Image.Exif()
        ifd = {"f_number": 0x829D, "focal_length": 0x920A, "pitch": 0xA20E, "unit": 0xA210,
               "iso": 0x8827, "distance": 0x9206}  # fmt: skip
        exif[0x8769] = {
            ifd[name]: IFDRational(round(value * 1000), 1000) if isinstance(value, float) else value
            for name, value in values.items()
        }
        return drawn.file(LIGHT, exif=exif)

    def test_what_a_camera_says_is_read(self) -> None:
        exif = exif_of(self.said(f_number=2.8, focal_length=35.0, pitch=2000.0, unit=3, iso=400))
        self.assertEqual((exif.f_number, exif.focal_length, exif.iso), (2.8, 35.0, 400))
        self.assertAlmostEqual(exif.pitch or 0, 0.005)
        self.assertEqual(exif.doubts, ())

    def test_lies_are_doubted_and_not_used(self) -> None:
        exif = exif_of(self.said(f_number=900.0, focal_length=0.001, pitch=9e6, unit=3))
        self.assertEqual((exif.f_number, exif.focal_length, exif.pitch), (None, None, None))
        self.assertEqual(len(exif.doubts), 3)

    def test_nothing_said_is_nothing_known(self) -> None:
        exif = exif_of(drawn.file(LIGHT))
        self.assertIsNone(exif.f_number)
        self.assertEqual(exif.orientation, 1)

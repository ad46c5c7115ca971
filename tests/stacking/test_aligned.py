"""Frames moved onto each other before they are stacked: by features, and by the stars."""

import cv2
import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.frames.star_alignment import SkyLens
from tests.core.review.test_frames import SIZE, photographed, stars, turned
from tests.stacking.frames import codes_of, linear_of, png, shot, still
from tests.stacking.test_stack import InFolder


class Aligned(InFolder):
    def test_frames_from_the_hand_come_out_sharp_and_a_strange_one_is_named(self):
        draw, base = np.random.default_rng(3), still((360, 480))
        frames = []
        for _ in range(6):
            matrix = cv2.getRotationMatrix2D((240, 180), draw.uniform(-2, 2), 1)
            matrix[:, 2] += draw.uniform(-9, 9, 2)
            moved = cv2.warpAffine(base, matrix, (480, 360), borderMode=cv2.BORDER_REFLECT)
            frames.append(png(codes_of(moved * draw.normal(1, 0.02, moved.shape))))
        frames.append(png(codes_of(still((360, 480), seed=99))))
        files = self.files(frames, "png")
        detail = {}
        for align in ("none", "features"):
            done = self.stacked(files, "mean", align, mixed=align == "none")
            grey = linear_of(self.result()).mean(axis=2)
            middle = grey[80:280, 100:380].astype(np.float32)
            detail[align] = float(np.abs(cv2.Laplacian(middle, cv2.CV_32F)).mean())
        self.assertEqual([name.name for name in done.left_out], ["f06.png"])
        self.assertIn("too little", done.left_out[0].why)
        self.assertGreater(detail["features"], 1.5 * detail["none"])

    def test_the_median_of_moved_frames_drops_what_only_one_has(self):
        base = still((360, 480))
        frames = []
        for number in range(5):
            matrix = np.array([[1.0, 0, 3.0 * number], [0, 1.0, -2.0 * number]])
            copy = base.copy()
            if number == 3:
                copy[150:200, 200:260] = 0.9
            moved = cv2.warpAffine(copy, matrix, (480, 360), borderMode=cv2.BORDER_REFLECT)
            frames.append(png(codes_of(moved)))
        done = self.stacked(self.files(frames, "png"), "median", "features")
        self.assertEqual(done.frames, 5)
        self.assertLess(linear_of(self.result()).mean(axis=2)[160:190, 210:250].max(), 0.6)

    def test_the_land_stays_sharp_under_its_line_while_the_stars_are_laid(self):
        lens = SkyLens(1300.0, 0.0, SIZE)
        directions, fluxes = stars(lens)
        width, height = SIZE
        land = still((height, width)) * 0.4
        frames = []
        for number in range(6):
            places = lens.places(turned(directions, 90.0 * number))
            light = photographed(places, fluxes, number) / 1500
            light[int(0.7 * height) :] = land[int(0.7 * height) :]
            frames.append(png(codes_of(light)))
        files = self.files(frames, "png")
        horizon = ((0.0, 0.69), (1.0, 0.69))
        detail, peaks = {}, {}
        for name, line in (("moved", ()), ("still", horizon)):
            self.stacked(files, "mean", "stars", mixed=True, horizon=line)
            grey = linear_of(self.result()).mean(axis=2)
            below = np.ascontiguousarray(grey[int(0.78 * height) :], dtype=np.float32)
            detail[name] = float(np.abs(cv2.Laplacian(below, cv2.CV_32F)).mean())
            peaks[name] = float(np.quantile(grey[: int(0.6 * height)], 0.9995))
        ascontiguousarray = np.ascontiguousarray(land[int(0.78 * height) :], dtype=np.float32)
        wanted = float(np.abs(cv2.Laplacian(ascontiguousarray, cv2.CV_32F)).mean())
        self.assertAlmostEqual(detail["still"], wanted, delta=0.1 * wanted)
        self.assertLess(detail["moved"], 0.85 * wanted)
        self.assertAlmostEqual(peaks["still"], peaks["moved"], delta=0.1 * peaks["moved"])

    def test_land_from_a_frame_of_its_own_meets_the_sky_along_its_masts(self):
        lens = SkyLens(1300.0, 0.0, SIZE)
        directions, fluxes = stars(lens)
        width, height = SIZE
        line, mast = int(0.7 * height), (slice(int(0.3 * height), height), slice(200, 212))
        frames = []
        for number in range(4):
            places = lens.places(turned(directions, 90.0 * number))
            light = photographed(places, fluxes, number) / 1500
            light[line - 12 :] = 0.002
            light[mast] = 0.002
            frames.append(png(codes_of(light)))
        # In the dusk the sky is bright, more so to one side, and the foreground shows what it is.
        dusk = np.linspace(0.25, 0.5, width)[None, :] * np.ones((height, 1))
        dusk[line - 12 :] = still((height, width))[line - 12 :] * 0.1
        dusk[mast] = 0.015
        files = self.files([*frames, png(codes_of(dusk))], "png")
        own = {"horizon": ((0.0, 0.7), (1.0, 0.7)), "mixed": True, "land": ("f04.png",)}
        done = self.stacked(files, "mean", "stars", **own)
        self.assertEqual((done.frames, done.left_out), (4, ()))
        grey = linear_of(self.result()).mean(axis=2)
        self.stacked(files[:4], "mean", "stars", mixed=True)
        plain = linear_of(self.result()).mean(axis=2)
        shown = linear_of(codes_of(dusk)).mean(axis=2)
        land = slice(line + 20, None)
        np.testing.assert_allclose(grey[land], shown[land], atol=0.001)
        np.testing.assert_allclose(
            grey[line - 8 : line - 4, 300:], shown[line - 8 : line - 4, 300:], atol=0.004
        )
        self.assertAlmostEqual(float(np.median(grey[mast][:100, 4:-4])), 0.015, delta=0.002)
        sky = (slice(0, int(0.25 * height)), slice(None))
        np.testing.assert_allclose(grey[sky], plain[sky], atol=0.001)
        beside = (slice(int(0.35 * height), int(0.6 * height)), slice(230, 500))
        self.assertLess(float(np.median(grey[beside])), 0.1)
        # The phone was taken off its tripod between dusk and night.
        moved = cv2.warpAffine(
            dusk, np.array([[1, 0, 6.0], [0, 1, -3.0]]), SIZE, borderMode=cv2.BORDER_REPLICATE
        )
        (self.folder / "f04.png").write_bytes(png(codes_of(moved)))
        done = self.stacked(files, "mean", "stars", **own)
        self.assertAlmostEqual(done.land_moved_px, np.hypot(6, 3), delta=0.3)
        back = linear_of(self.result()).mean(axis=2)
        # By hundredths of a pixel: what is left are the edges of the patches foreground.
        inside = (slice(line + 20, height - 10), slice(10, width - 10))
        self.assertLess(float(np.abs(back - grey)[inside].mean()), 0.0015)
        self.assertLess(done.land_sky_share, 0.05)
        above = {**own, "horizon": ((0.0, 0.6), (1.0, 0.6))}
        done = self.stacked(files, "mean", **above)
        self.assertGreater(done.land_sky_share, 0.5)
        with self.assertRaisesRegex(BadInput, "Draw the horizon line"):
            self.stacked(files, "mean", "stars", land=("f04.png",))
        with self.assertRaisesRegex(BadInput, "no frame named dusk.png"):
            self.stacked(files, "mean", "stars", **{**own, "land": ("dusk.png",)})

    def test_trails_go_on_through_the_pauses_between_frames(self):
        lens = SkyLens(1300.0, 0.0, SIZE)
        directions, fluxes = stars(lens)
        fluxes = fluxes[:60] * 4
        directions = directions[:60]
        frames = []
        for number in range(6):
            light = sum(
                photographed(lens.places(turned(directions, 120.0 * number + after)), fluxes, 3)
                for after in np.linspace(0, 30, 5)
            )
            frames.append(shot(light / 5 / 1500, number, shutter=(30, 1), gap_s=120))
        files = self.files(frames)
        share, grain = {}, {}
        for closes in (False, True):
            done = self.stacked(files, "lighten", close_gaps=closes, mixed=not closes)
            self.assertEqual(done.frames, 6)
            grey = linear_of(self.result()).mean(axis=2)
            ground = float(np.median(grey))

            def along(seconds, grey=grey, ground=ground):
                times = [120.0 * number + seconds for number in range(1, 4)]
                places = np.concatenate([lens.places(turned(directions, at)) for at in times])
                x, y = np.rint(places).astype(int).T
                inside = (x > 5) & (y > 5) & (x < SIZE[0] - 5) & (y < SIZE[1] - 5)
                return float(np.median(grey[y[inside], x[inside]])) - ground

            share[closes] = along(75.0) / along(15.0)
            grain[closes] = ground
        self.assertLess(share[False], 0.3)
        self.assertGreater(share[True], 0.75)
        # The sky between them is no lighter for it: its grain is not imported once more.
        self.assertAlmostEqual(grain[True] / grain[False], 1.0, delta=0.01)

    def test_stars_are_laid_on_stars_and_gain_by_it(self):
        lens = SkyLens(1300.0, 0.0, SIZE)
        directions, fluxes = stars(lens)
        frames = []
        for number in range(7):
            places = lens.places(turned(directions, 60.0 * number))
            light = photographed(places, fluxes, number) / 1500
            frames.append(png(codes_of(light)))
        files = self.files(frames, "png")
        peaks = {}
        for align in ("none", "stars"):
            done = self.stacked(files, "mean", align, mixed=True)
            self.assertEqual(done.frames, 7)
            peaks[align] = float(np.quantile(linear_of(self.result()).mean(axis=2), 0.9995))
        self.assertGreater(peaks["stars"], 2 * peaks["none"])

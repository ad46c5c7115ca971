"""A scene some seconds later: what crosses has gone on, the sky has turned, light has changed."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oxlen.core.simulate.moving import way_px
from oxlen.core.simulate.scene import Layer, Scene, SceneLamp, SceneMover
from oxlen.core.simulate.stars import SIDEREAL_RAD_S

NEXT_AFTER_FRAMES = 1.6
"""The next of its kind comes once the last has gone so many frame widths."""
CLOUD_STOPS, CLOUD_S = 0.06, 47.0
"""Thin cloud changes daylight by so much, so slowly."""


def later(scene: Scene, seconds: float, *, daylight: bool = False, again: bool = True) -> Scene:
    """The scene after some seconds, as the next frame of a set finds it.

    What leaves the frame on one side is followed by another of its kind on the other, where
    `again` says so. Water begins anew with each take anyway.
    """
    movers = {mover.name: mover for mover in scene.movers}
    layers = tuple(
        _gone_on(scene, layer, movers.get(layer.name), seconds=seconds, again=again)
        for layer in scene.layers
    )
    lamps = tuple(
        _carried_on(scene, lamp, movers, seconds=seconds, again=again) for lamp in scene.lamps
    )
    sky = scene.star_field
    if sky is not None:
        turned = np.degrees(SIDEREAL_RAD_S * seconds)
        sky = replace(sky, axis_ra_deg=sky.axis_ra_deg + float(turned))
    light = scene.radiance
    if daylight:
        light = light * np.float32(2.0 ** (CLOUD_STOPS * np.sin(2 * np.pi * seconds / CLOUD_S)))
    return replace(scene, radiance=light, layers=layers, lamps=lamps, star_field=sky)


def _gone_on(
    scene: Scene, layer: Layer, mover: SceneMover | None, *, seconds: float, again: bool
) -> Layer:
    if mover is None:
        return layer
    right, down = way_px(scene, mover, seconds)
    left = _within(scene, layer, right) if again else layer.left + round(float(right))
    return replace(layer, left=left, top=layer.top + round(float(down)))


def _within(scene: Scene, layer: Layer, right_px: float) -> int:
    """Left edge of what has gone so far, come again on the other side once it has left."""
    width = layer.cover.shape[1]
    span = NEXT_AFTER_FRAMES * (scene.width_px + width)
    return int(round(float((layer.left + width + right_px) % span)) - width)


def _carried_on(
    scene: Scene, lamp: SceneLamp, movers: dict[str, SceneMover], *, seconds: float, again: bool
) -> SceneLamp:
    carried = lamp.carried
    layer = next(
        (
            scene_layer
            for scene_layer in scene.layers
            if carried and scene_layer.name == carried.mover
        ),
        None,
    )
    if carried is None or layer is None:
        return lamp
    gone = _gone_on(scene, layer, movers.get(layer.name), seconds=seconds, again=again)
    return replace(lamp, carried=replace(carried, x_px=carried.x_px + gone.left - layer.left))

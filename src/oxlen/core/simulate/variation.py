"""The same scene on another day."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oxlen.core.simulate.scene import Scene, SceneLamp


def varied(scene: Scene, *, light: float = 1.0, speed: float = 1.0, distance: float = 1.0) -> Scene:
    """The scene on another day: light, and the speed and distance of movers, times a factor."""
    movers = tuple(
        replace(m, speed_m_s=m.speed_m_s * speed, distance_m=m.distance_m * distance)
        for m in scene.movers
    )
    layers = tuple(
        replace(layer, colour=layer.colour * np.float32(light)) for layer in scene.layers
    )
    radiance = scene.radiance * np.float32(light)
    lamps = tuple(_dimmed(lamp, light) for lamp in scene.lamps)
    return replace(scene, radiance=radiance, layers=layers, movers=movers, lamps=lamps)


def _dimmed(lamp: SceneLamp, light: float) -> SceneLamp:
    if lamp.carried is None:
        return lamp
    red, green, blue = (light * value for value in lamp.carried.colour)
    return replace(lamp, carried=replace(lamp.carried, colour=(red, green, blue)))

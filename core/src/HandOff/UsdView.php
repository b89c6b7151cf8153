<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\UsdText;

/** Through what a shot is seen and in what light, as USD has it (UsdGeom, UsdLux; units from memory). */
final class UsdView
{
    /** The film of the camera, in tenths of a unit as USD has it: 36 mm wide. */
    private const FILM = 0.36;

    public static function camera(UsdText $usd, Shot $shot): void
    {
        $camera = $shot->camera;
        if ($camera === null) {
            return;
        }
        $usd->open('Camera', 'camera');
        $usd->line('float2 clippingRange = (0.01, 10000)');
        $usd->line('float horizontalAperture = ' . self::FILM);
        $usd->line('float verticalAperture = ' . UsdText::number(self::FILM / $camera->aspect, UsdSamples::PARTS));
        $places = $turns = '';
        $lens = [];
        for ($frame = 1; $frame <= $shot->frames; $frame++) {
            $pose = $camera->poseAt($frame);
            $places .= pack('g3', ...array_slice($pose, 0, 3));
            $turns .= pack('g4', ...array_slice($pose, 3, 4));
            $lens[$frame] = UsdText::number(self::FILM / $camera->aspect / (2.0 * tan(0.5 * $camera->heightAt($frame))), UsdSamples::PARTS);
        }
        $usd->over('float focalLength', $lens);
        UsdSamples::motion($usd, ['translation' => $places, 'rotation' => $turns], UsdSamples::PARTS);
        $usd->close();
    }

    /** With normalize a distant light's intensity is what it gives to what faces it; that of a dome comes from everywhere, and gives pi times as much. */
    public static function lights(UsdText $usd, Shot $shot): void
    {
        $frames = range(1, $shot->frames);
        foreach ($shot->lights->on($shot->frames) as $name => $light) {
            $usd->open('DistantLight', $name);
            $usd->line('bool inputs:normalize = 1');
            $usd->line('color3f inputs:color = ' . UsdText::vector(Looks::linear($light->colour), UsdSamples::SHADES));
            $usd->over('float inputs:intensity', UsdSamples::numbers($light->strengthAt(...), $shot->frames));
            $usd->over('quatf xformOp:orient', UsdSamples::turns(implode('', array_map(static fn (int $frame): string => pack('g4', ...$light->rotationAt($frame)), $frames))));
            $usd->line('uniform token[] xformOpOrder = ["xformOp:orient"]');
            $usd->close();
        }
        $lights = $shot->lights;
        $colour = array_map(static fn (float $above, float $below): float => 0.5 * ($above + $below), Looks::linear($lights->skyColour), Looks::linear($lights->groundColour));
        $usd->open('DomeLight', 'sky');
        $usd->line('color3f inputs:color = ' . UsdText::vector($colour, UsdSamples::SHADES));
        $usd->over('float inputs:intensity', UsdSamples::numbers(static fn (float $frame): float => $lights->skyAt($frame) / M_PI, $shot->frames));
        $usd->close();
    }
}

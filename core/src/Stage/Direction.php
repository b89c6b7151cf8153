<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Weight\Samples;

/** A direction of the document, and places along it. */
final class Direction
{
    /** @return array{float, float, float} unit; up where the document says none */
    public static function of(Settings $settings, string $name): array
    {
        [$x, $y, $z] = $settings->vector($name);
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 1.0, 0.0];
    }

    /** @throws BadDocument if it has no length */
    public static function check(Settings $settings, string $name): void
    {
        if ($settings->vector($name) === [0.0, 0.0, 0.0]) {
            throw $settings->wrong($name, 'A direction needs a length: at least one of its numbers must not be 0.');
        }
    }

    /**
     * @param array{float, float, float} $direction unit
     *
     * @return list<float> m
     */
    public static function along(array $direction, Samples $at): array
    {
        [$x, $y, $z] = $direction;

        return array_map(static fn (float $u, float $v, float $w): float => $x * $u + $y * $v + $z * $w, $at->x, $at->y, $at->z);
    }

    /**
     * @param array{float, float, float} $direction unit
     * @param array{array{float, float, float}, array{float, float, float}} $bounds
     *
     * @return array{float, float} from where to where a box reaches along it, m
     */
    public static function extent(array $direction, array $bounds): array
    {
        $low = $high = 0.0;
        foreach ($direction as $axis => $share) {
            $low += $share * $bounds[$share < 0.0 ? 1 : 0][$axis];
            $high += $share * $bounds[$share < 0.0 ? 0 : 1][$axis];
        }

        return [$low, $high];
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\BreachPattern;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Shot\BreakSettings;

/** The pattern that the settings of a document ask for. A pattern holds what matters to it and nothing else. */
final class Patterns
{
    /** @return Pattern|null null: the prop stays whole */
    public static function of(BreakSettings $b): ?Pattern
    {
        return match ($b->pattern) {
            'cellular' => new CellularPattern($b->pieces, $b->seed, $b->evenness, $b->variety, $b->clustering > 0.0 ? [...$b->at, $b->reach, $b->clustering] : null),
            'web' => new WebPattern($b->seed, $b->at, $b->axis, $b->rays, $b->rings, $b->radius, $b->growth, $b->jitter, $b->rest === 'whole'),
            'courses' => new CoursesPattern(
                $b->bond,
                $b->seed,
                $b->axis,
                $b->length,
                $b->height,
                $b->bond === CoursesPattern::BRICK ? $b->depth : 0.0,
                $b->offset,
                $b->bond === CoursesPattern::HEXAGON ? 0.0 : $b->joint,
                $b->variety,
            ),
            'halving' => new HalvingPattern($b->count > 0 ? 0 : $b->rounds, $b->count, $b->seed, $b->wander),
            'grain' => new GrainPattern($b->pieces, $b->seed, $b->evenness, self::unit($b->axis), $b->slenderness, $b->raggedness),
            'breach' => new BreachPattern(
                $b->seed,
                $b->shape,
                $b->at,
                $b->axis,
                $b->radius,
                $b->ragged,
                $b->crumb,
                $b->fragments,
                $b->bands,
                $b->bands > 0 ? $b->band : 0.0,
            ),
            default => null,
        };
    }

    /**
     * @param array{float, float, float} $axis
     *
     * @return array{float, float, float} upright if it has no length
     */
    private static function unit(array $axis): array
    {
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);

        return $length > 1e-9 ? [$axis[0] / $length, $axis[1] / $length, $axis[2] / $length] : [0.0, 1.0, 0.0];
    }
}

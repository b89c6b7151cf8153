<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Rigid\Bonds;

/** The bonds between the pieces of a prop, as strong as the area that they share. */
final class Glue
{
    /** Pieces with a joint between them touch if it is no wider than this share of their size. */
    private const JOINT = 0.25;

    /** @return Bonds|null null: nothing holds them together */
    public static function of(RigidSettings $settings, BrokenProp $broken): ?Bonds
    {
        $touching = $settings->glue > 0.0 ? self::touching($broken) : [];
        if ($touching === []) {
            return null;
        }
        $random = RandomStream::named($settings->glueSeed, 'glue');

        return new Bonds(count($broken->pieces), array_map(
            static fn (array $pair): array => [$pair[0], $pair[1], $settings->glue * $pair[2] * (1.0 + $settings->glueVariety * $random->between(-1.0, 1.0)), $pair[2]],
            $touching,
        ));
    }

    /** @return list<array{int, int, float}> pieces that touch, and the area they share, m2 */
    public static function touching(BrokenProp $broken): array
    {
        return $broken->touching !== [] ? $broken->touching : self::acrossJoints($broken);
    }

    /**
     * Bricks lie apart by their joints: those whose bounds, a joint wider, overlap share the face between.
     *
     * @return list<array{int, int, float}>
     */
    private static function acrossJoints(BrokenProp $broken): array
    {
        if ($broken->discarded <= 0.0 || $broken->hasCore) {
            return [];
        }
        $bounds = [];
        foreach ($broken->pieces as $mesh) {
            $bounds[] = $mesh->bounds();
        }
        $pairs = [];
        foreach ($bounds as $a => [$low, $high]) {
            for ($b = $a + 1, $n = count($bounds); $b < $n; $b++) {
                [$from, $to] = $bounds[$b];
                $over = [];
                foreach ([0, 1, 2] as $axis) {
                    $over[] = min($high[$axis], $to[$axis]) - max($low[$axis], $from[$axis]);
                }
                $size = min($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
                if (min($over) > -self::JOINT * $size) {
                    sort($over);
                    if ($over[1] > 0.0) {
                        $pairs[] = [$a, $b, $over[1] * $over[2]];
                    }
                }
            }
        }

        return $pairs;
    }
}

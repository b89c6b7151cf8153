<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;

/**
 * What is seen of a rope or a spring, as a mesh: a tube between its two ends. A rope hangs as far as it is longer than it must be, a
 * spring is wound; the picture draws them along the same line (`viewport/joints.ts`). A hinge has nothing to be seen.
 */
final readonly class Cord
{
    /** As the picture has them, sRGB. */
    private const COLOUR = '#7a6242';

    /** Radius, m, and corners around. */
    private const RADIUS = 0.006;
    private const SIDES = 6;

    /** Straight parts of a rope; turns of a spring, and how wide it is, of its length. */
    private const ROPE = 16;
    private const COILS = 12;
    private const WIDE = 0.06;

    /** Tubes are turned the same way at each frame: from the axis that is least along them at the first. */
    private const AXES = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];

    /** How it is made of triangles, as it is at the first frame. */
    public TriangleMesh $mesh;

    /** @var array{float, float, float} */
    private array $axis;

    /** @param float $length m, as long as it is made */
    private function __construct(public string $id, public string $name, private float $length, private bool $hangs, private BakeReader $bake, private int $track)
    {
        [$from, $to] = $this->ends(1);
        $way = Vector::minus($to, $from);
        $along = array_map(abs(...), $way);
        $this->axis = self::AXES[(int) array_search(min($along), $along, true)];
        $this->mesh = self::tube($this->placesAt(1));
    }

    /** @return list<self> of a shot, as baked */
    public static function all(Shot $shot, BakeReader $bake): array
    {
        $cords = [];
        foreach ($shot->joints as $joint) {
            $track = $bake->manifest->track($joint->id, Track::ENDS);
            $ends = $joint->kind->trait('ends');
            if ($track !== null && is_array($ends) && count($ends) === 2) {
                $cords[] = new self($joint->id, $joint->name, self::lengthOf($joint, $ends[0], $ends[1]), $joint->kind->settings->has('slack'), $bake, $track);
            }
        }

        return $cords;
    }

    /** @return array{string, array{float, float, float}, float, null} how all of them look, as {@see Looks::of()} has it */
    public static function look(): array
    {
        return ['Ropes and springs', Looks::linear(self::COLOUR), Looks::ROUGHNESS, null];
    }

    private static function lengthOf(Joint $joint, string $from, string $to): float
    {
        $settings = $joint->kind->settings;

        return Vector::distance($settings->vector($from), $settings->vector($to)) * (1.0 + ($settings->has('slack') ? $settings->float('slack') : 0.0) / 100.0);
    }

    public function holds(int $frame): bool
    {
        return $this->at($frame)[6] > 0.0;
    }

    /** As it stands at a frame; null: it holds no more. */
    public function standing(int $frame): ?TriangleMesh
    {
        return $this->holds($frame) ? self::tube($this->placesAt($frame)) : null;
    }

    /** @return list<float> three numbers a vertex, ring after ring, then the two ends; also where it holds no more */
    public function placesAt(int $frame): array
    {
        [$from, $to] = $this->ends($frame);
        $line = $this->hangs ? $this->hanging($from, $to) : $this->wound($from, $to);
        $places = [];
        $side = $this->axis;
        $last = count($line) - 1;
        foreach ($line as $k => $at) {
            $way = Vector::unit(Vector::minus($line[min($last, $k + 1)], $line[max(0, $k - 1)])) ?? self::AXES[1];
            // Carried on from ring to ring, so that it is not wrung.
            $side = Vector::unit(Vector::minus($side, Vector::times($way, Vector::dot($side, $way)))) ?? $side;
            $other = Vector::cross($way, $side);
            for ($corner = 0; $corner < self::SIDES; $corner++) {
                $turn = 2.0 * M_PI * $corner / self::SIDES;
                array_push($places, ...Vector::plus($at, Vector::plus(Vector::times($side, self::RADIUS * cos($turn)), Vector::times($other, self::RADIUS * sin($turn)))));
            }
        }

        return [...$places, ...$line[0], ...$line[$last]];
    }

    /**
     * A flat arc, never deeper than if it hung in two straight lines.
     *
     * @param array{float, float, float} $from
     * @param array{float, float, float} $to
     *
     * @return list<array{float, float, float}>
     */
    private function hanging(array $from, array $to): array
    {
        $apart = Vector::distance($from, $to);
        $over = max(0.0, $this->length - $apart);
        $sag = min(
            sqrt(3.0 * max($apart, 1e-6) * $over / 8.0) + ($apart < 1e-3 ? $this->length / 2.0 : 0.0),
            sqrt(max(0.0, $this->length ** 2 - $apart ** 2)) / 2.0,
        );
        $line = [];
        for ($k = 0; $k <= self::ROPE; $k++) {
            $share = $k / self::ROPE;
            [$x, $y, $z] = Vector::between($from, $to, $share);
            $line[] = [$x, $y - 4.0 * $sag * $share * (1.0 - $share), $z];
        }

        return $line;
    }

    /**
     * @param array{float, float, float} $from
     * @param array{float, float, float} $to
     *
     * @return list<array{float, float, float}>
     */
    private function wound(array $from, array $to): array
    {
        $way = Vector::minus($to, $from);
        $side = Vector::cross(self::AXES[1], Vector::unit($way) ?? self::AXES[1]);
        $side = Vector::times(Vector::dot($side, $side) > 1e-4 ? Vector::unit($side) ?? self::AXES[0] : self::AXES[0], self::WIDE * $this->length);
        $line = [$from];
        for ($k = 1; $k <= self::COILS; $k++) {
            $line[] = Vector::plus(Vector::between($from, $to, ($k - 0.5) / self::COILS), Vector::times($side, $k % 2 === 0 ? 1.0 : -1.0));
        }

        return [...$line, $to];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} */
    private function ends(int $frame): array
    {
        $at = $this->at($frame);

        return [[$at[0], $at[1], $at[2]], [$at[3], $at[4], $at[5]]];
    }

    /** @return array<int, float> both ends, and whether it holds */
    private function at(int $frame): array
    {
        return array_map(floatval(...), $this->bake->track($frame, $this->track) ?? throw PieceKeys::unbaked($frame));
    }

    /** @param list<float> $places */
    private static function tube(array $places): TriangleMesh
    {
        $vertices = intdiv(count($places), 3);
        $rings = intdiv($vertices - 2, self::SIDES);
        $triangles = [];
        for ($corner = 0; $corner < self::SIDES; $corner++) {
            $next = ($corner + 1) % self::SIDES;
            for ($ring = 0; $ring < $rings - 1; $ring++) {
                [$a, $b] = [self::SIDES * $ring + $corner, self::SIDES * $ring + $next];
                [$c, $d] = [$a + self::SIDES, $b + self::SIDES];
                array_push($triangles, $a, $b, $d, $a, $d, $c);
            }
            $end = self::SIDES * ($rings - 1);
            array_push($triangles, $vertices - 2, $next, $corner, $vertices - 1, $end + $corner, $end + $next);
        }
        $axis = static fn (int $of): array => array_values(array_filter($places, static fn (int $k): bool => $k % 3 === $of, ARRAY_FILTER_USE_KEY));

        return new TriangleMesh($axis(0), $axis(1), $axis(2), $triangles);
    }
}

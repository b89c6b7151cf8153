<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Math\SmoothPath;
use YardBreak\Core\Math\Vector;

/**
 * The way each piece of a staged prop goes: an offset, a turn about a place of its own, a scale and a turn of all that about the
 * prop's axis, all by how far it is from home. It leaves home, comes home, or comes from one side and leaves to the other. Home is
 * where the piece is at rest, or where the file has it that the prop plays.
 */
final class StagedWay
{
    private const AXES = ['x' => [1.0, 0.0, 0.0], 'y' => [0.0, 1.0, 0.0], 'z' => [0.0, 0.0, 1.0]];

    /** Which side of its bounds a piece turns about: axis, and which end of it. */
    private const SIDES = ['left' => [0, 0], 'right' => [0, 1], 'bottom' => [1, 0], 'top' => [1, 1], 'back' => [2, 0], 'front' => [2, 1]];

    /** @var list<array{float, float, float}> m, away from home, in the prop's axes */
    private array $offset = [];

    /** @var list<array{float, float, float}> m, besides, off its surface: it turns with the piece */
    private array $off = [];

    /** @var list<array{float, float, float}> m, besides, in the shot's axes */
    private array $besides = [];

    /** @var list<array{array{float, float, float}, float}> axis and angle in radians of its own turn, away from home */
    private array $turn = [];

    /** @var list<array{float, float, float}> what it turns about, from its middle, in the prop's axes */
    private array $pivot = [];

    private readonly string $course;

    /** @var array{float, float, float} along the prop's axes, at the end of the way */
    private readonly array $scale;

    /** What all go along besides, in the shot; null: nothing. */
    private readonly ?SmoothPath $line;

    /** @var list<float> share more or less that each piece goes */
    private array $far = [];

    /** Null: home is where each piece is at rest. */
    private readonly ?PlayedPieces $played;

    /** Radians about the prop's axis. */
    private readonly float $round;

    /** @var array{float, float, float} */
    private readonly array $axis;

    public function __construct(private readonly Prop $prop, private readonly BrokenProp $broken, Surfaces $others)
    {
        $settings = $prop->mover->settings;
        $this->course = $settings->string('course');
        $scale = $settings->float('scale');
        [$sx, $sy, $sz] = $settings->vector('scaleAxes');
        $this->scale = [$scale * $sx, $scale * $sy, $scale * $sz];
        $places = $settings->vectors('line');
        $this->line = count($places) < 2 ? null : new SmoothPath($places);
        $this->played = PlayedPieces::of($prop, $broken, $others);
        $this->round = deg2rad($settings->float('round'));
        $this->axis = self::AXES[$settings->string('roundAxis')] ?? self::AXES['y'];
        $this->spread(new PieceDirections($prop, $broken, $others), $settings->vector('offset'), $settings->vector('rotation'), $settings->float('outward'), $settings->float('normal'), $settings->float('variety'), $settings->int('seed'), $settings->string('axes') === 'shot');
        $side = self::SIDES[$settings->string('about')] ?? null;
        foreach ($broken->mass as $k => $mass) {
            $this->pivot[] = $side === null ? [0.0, 0.0, 0.0] : Vector::minus($this->side($k, $side[0], $side[1]), $mass->centre);
        }
    }

    /**
     * What each piece has of its own: a share more or less of the way and of each turn.
     *
     * @param array{float, float, float} $offset m
     * @param array{float, float, float} $rotation degrees
     */
    private function spread(PieceDirections $directions, array $offset, array $rotation, float $outward, float $normal, float $variety, int $seed, bool $inShot): void
    {
        foreach (array_keys($this->broken->mass) as $k) {
            $random = RandomStream::named($seed, 'staged', $k);
            $share = static fn (): float => 1.0 + $variety * $random->between(-1.0, 1.0);
            $this->far[] = $way = $share();
            [$ux, $uy, $uz] = $outward === 0.0 ? [0.0, 0.0, 0.0] : $directions->outward($k);
            [$nx, $ny, $nz] = $normal === 0.0 ? [0.0, 0.0, 0.0] : $directions->offTheSurface($k);
            [$ox, $oy, $oz] = $inShot ? [0.0, 0.0, 0.0] : $offset;
            $this->offset[] = [$way * ($ox + $outward * $ux), $way * ($oy + $outward * $uy), $way * ($oz + $outward * $uz)];
            $this->off[] = [$way * $normal * $nx, $way * $normal * $ny, $way * $normal * $nz];
            $this->besides[] = $inShot ? [$way * $offset[0], $way * $offset[1], $way * $offset[2]] : [0.0, 0.0, 0.0];
            // One turn about one axis, so that it grows evenly and more than half a turn goes the whole way.
            [$x, $y, $z] = [$share() * $rotation[0], $share() * $rotation[1], $share() * $rotation[2]];
            $angle = sqrt($x * $x + $y * $y + $z * $z);
            $this->turn[] = $angle > 0.0 ? [[$x / $angle, $y / $angle, $z / $angle], deg2rad($angle)] : [[1.0, 0.0, 0.0], 0.0];
        }
    }

    /** @return array{float, float, float} the middle of a side of a piece's bounds */
    private function side(int $piece, int $axis, int $end): array
    {
        [$low, $high] = $this->broken->pieces->mesh($piece)->bounds();
        $middle = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
        $middle[$axis] = $end === 0 ? $low[$axis] : $high[$axis];

        return [$middle[0], $middle[1], $middle[2]];
    }

    /** How far from home a piece is that has gone a share of its way: 0 at home; past 1 where its pace overshoots, below 0 on the other side. */
    private function away(float $share): float
    {
        return match ($this->course) {
            'from' => 1.0 - $share,
            'through' => 1.0 - 2.0 * $share,
            default => $share,
        };
    }

    /**
     * @param list<float> $progress of each piece
     *
     * @return array{list<float>, list<float>} poses and scales, along each piece's own axes
     */
    public function place(float $frame, array $progress): array
    {
        $position = $this->prop->transform->positionAt($frame);
        $rotation = $this->prop->transform->rotationAt($frame);
        [$sx, $sy, $sz] = $this->prop->transform->scaleAt($frame);
        $homes = $this->played?->at($frame);
        $poses = $scales = [];
        foreach ($progress as $k => $share) {
            $share = $this->away($share);
            [$centre, $ride] = $homes[$k] ?? [$this->broken->centre($k), Quaternion::IDENTITY];
            [$dx, $dy, $dz] = $this->offset[$k];
            [$nx, $ny, $nz] = $homes === null ? $this->off[$k] : Quaternion::rotate($ride, $this->off[$k]);
            [$axis, $angle] = $this->turn[$k];
            $turn = Quaternion::multiply(Quaternion::aboutAxis($axis, $share * $angle), $ride);
            [$ax, $ay, $az] = $this->swung($k, $ride, $turn, $share);
            $local = [$sx * ($centre[0] + $share * ($dx + $nx) + $ax), $sy * ($centre[1] + $share * ($dy + $ny) + $ay), $sz * ($centre[2] + $share * ($dz + $nz) + $az)];
            if ($this->round !== 0.0) {
                $round = Quaternion::aboutAxis($this->axis, $share * $this->round);
                $local = Quaternion::rotate($round, $local);
                $turn = Quaternion::multiply($round, $turn);
            }
            [$bx, $by, $bz] = $this->besides[$k];
            [$lx, $ly, $lz] = $this->along($share * $this->far[$k]);
            [$px, $py, $pz] = Quaternion::carried($position, $rotation, $local);
            array_push($poses, $px + $share * $bx + $lx, $py + $share * $by + $ly, $pz + $share * $bz + $lz, ...Quaternion::multiply($rotation, $turn));
            [$a, $b, $c] = $this->sizeAt($share);
            array_push($scales, $sx * $a, $sy * $b, $sz * $c);
        }

        return [$poses, $scales];
    }

    /**
     * Where the middle of a piece goes as it turns (and grows) about a side of it.
     *
     * @param array{float, float, float, float} $home how it is turned at home
     * @param array{float, float, float, float} $turn and now
     *
     * @return array{float, float, float}
     */
    private function swung(int $piece, array $home, array $turn, float $share): array
    {
        if ($this->pivot[$piece] === [0.0, 0.0, 0.0]) {
            return [0.0, 0.0, 0.0];
        }
        [$a, $b, $c] = $this->sizeAt($share);
        [$x, $y, $z] = $this->pivot[$piece];

        return Vector::minus(Quaternion::rotate($home, $this->pivot[$piece]), Quaternion::rotate($turn, [$a * $x, $b * $y, $c * $z]));
    }

    /** @return array{float, float, float} along the prop's axes */
    private function sizeAt(float $share): array
    {
        [$x, $y, $z] = $this->scale;
        $far = abs($share);

        return [max(0.0, 1.0 + $far * ($x - 1.0)), max(0.0, 1.0 + $far * ($y - 1.0)), max(0.0, 1.0 + $far * ($z - 1.0))];
    }

    /** @return array{float, float, float} where the line leads from its first place, m; past its ends straight on */
    private function along(float $share): array
    {
        return $this->line === null || $share === 0.0 ? [0.0, 0.0, 0.0] : Vector::minus($this->line->at($share * $this->line->length()), $this->line->at(0.0));
    }
}

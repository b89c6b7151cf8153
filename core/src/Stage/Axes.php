<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Weight\Samples;

/** Axes that stand somewhere and may move: in a prop's own space, with which they go, or in the shot's. */
final readonly class Axes
{
    /**
     * @param list<Animated> $position m
     * @param list<Animated> $rotation degrees; none: not turned
     */
    private function __construct(private Prop $prop, private array $position, private array $rotation, private bool $inShot)
    {
    }

    /**
     * @param string|null $turn name of the settings that turn them
     *
     * @throws BadDocument
     */
    public static function read(Settings $settings, Prop $prop, ?string $turn = null): self
    {
        $read = static fn (string $name): array => array_map($settings->at($name)->animated(...), ['x', 'y', 'z']);

        return new self($prop, $read('at'), $turn === null ? [] : $read($turn), $settings->string('space') === 'shot');
    }

    /** @return array{list<float>, list<float>, list<float>} places of the prop as they are seen from there, m */
    public function seen(Samples $at, float $frame): array
    {
        $position = [$this->position[0]->at($frame), $this->position[1]->at($frame), $this->position[2]->at($frame)];
        $rotation = $this->rotation === [] ? Quaternion::IDENTITY : Quaternion::fromDegrees($this->rotation[0]->at($frame), $this->rotation[1]->at($frame), $this->rotation[2]->at($frame));
        if ($this->inShot) {
            return self::through($at, self::into($this->prop, $position, $rotation, $frame));
        }
        $back = Quaternion::conjugate($rotation);

        return self::through($at, [...Quaternion::matrix($back), ...Quaternion::rotate($back, [-$position[0], -$position[1], -$position[2]])]);
    }

    /** @param array{float, float, float} $size half of what stands there, m */
    public function outline(string $shape, array $size, float $frame): Outline
    {
        $at = static fn (Animated $value): float => $value->at($frame);
        [$x, $y, $z] = array_map($at, $this->position);

        return new Outline($shape, $this->inShot, [$x, $y, $z], $this->rotation === [] ? Quaternion::IDENTITY : Quaternion::fromDegrees(...array_map($at, $this->rotation)), $size);
    }

    /** @return list<float> where they stand at a frame, with the prop if it moves through them */
    public function sample(float $frame): array
    {
        $own = array_map(static fn (Animated $value): float => $value->at($frame), [...$this->position, ...$this->rotation]);
        $prop = $this->prop->transform;

        return $this->inShot ? [...$own, ...$prop->positionAt($frame), ...$prop->rotationAt($frame), ...$prop->scaleAt($frame)] : $own;
    }

    /** @return list<mixed> what decides where they stand relative to the prop, beside their own settings */
    public function inputs(): array
    {
        return $this->inShot ? $this->prop->transform->inputs() : [];
    }

    /**
     * @param array{float, float, float, float, float, float, float, float, float, float, float, float} $into matrix, row by row, and what is added
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public static function through(Samples $at, array $into): array
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $into;
        $u = $v = $w = [];
        foreach ($at->x as $k => $x) {
            $y = $at->y[$k];
            $z = $at->z[$k];
            $u[] = $m0 * $x + $m1 * $y + $m2 * $z + $tx;
            $v[] = $m3 * $x + $m4 * $y + $m5 * $z + $ty;
            $w[] = $m6 * $x + $m7 * $y + $m8 * $z + $tz;
        }

        return [$u, $v, $w];
    }

    /**
     * From a prop's own space into axes that stand somewhere in the shot, and what is seen there scaled.
     *
     * @param array{float, float, float} $position
     * @param array{float, float, float, float} $rotation
     *
     * @return array{float, float, float, float, float, float, float, float, float, float, float, float} matrix, row by row, and what is added
     */
    public static function into(Prop $prop, array $position, array $rotation, float $frame, float $by = 1.0): array
    {
        $back = Quaternion::conjugate($rotation);
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix(Quaternion::multiply($back, $prop->transform->rotationAt($frame)));
        [$sx, $sy, $sz] = $prop->transform->scaleAt($frame);
        [$px, $py, $pz] = $prop->transform->positionAt($frame);
        [$tx, $ty, $tz] = Quaternion::rotate($back, [$by * ($px - $position[0]), $by * ($py - $position[1]), $by * ($pz - $position[2])]);
        [$sx, $sy, $sz] = [$by * $sx, $by * $sy, $by * $sz];

        return [$sx * $m0, $sy * $m1, $sz * $m2, $sx * $m3, $sy * $m4, $sz * $m5, $sx * $m6, $sy * $m7, $sz * $m8, $tx, $ty, $tz];
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Easing;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Samples;

/**
 * A prop whose surface rises: each vertex along the direction its surface faces, as far as bumps are high there and the change has
 * got. Where several pieces meet they rise alike, since all depends on the place alone.
 */
final class SwellProp
{
    private readonly PieceTiming $timing;

    /** @var list<float>|null of each vertex; null: it does not go by the weight */
    private readonly ?array $thresholds;

    private readonly Samples $at;

    /** @var list<array{float, float, float}> where each vertex goes at full height of 1 m, in the prop's axes */
    private array $way = [];

    private readonly ?int $frame;

    private readonly float $takes;

    private readonly string $ease;

    private readonly Animated $height;

    public function __construct(private readonly Prop $prop, BrokenProp $broken, Surfaces $others)
    {
        $settings = $prop->mover->settings;
        $this->timing = new PieceTiming($prop, $broken, $others);
        $this->at = Weighing::vertices($broken);
        $this->thresholds = $this->timing->thresholds(count($this->at->x));
        $this->frame = Kinds::trigger($prop->trigger->kind)::frame($prop->trigger->settings);
        $this->takes = (float) $settings->int('takes');
        $this->ease = $settings->string('ease');
        $this->height = $settings->animated('height');
        $even = $settings->float('even');
        $heights = Relief::heights($this->at, $settings->string('form'), $settings->float('size'), $settings->int('detail'), $settings->int('seed'));
        foreach ((new SurfaceSeats($prop, $others))->normals($this->at) as $v => [$x, $y, $z]) {
            $far = $even + (1.0 - $even) * $heights[$v];
            $this->way[] = [$far * $x, $far * $y, $far * $z];
        }
    }

    public function count(): int
    {
        return count($this->at->x);
    }

    /** @return list<float> how far each vertex has got, 0 to 1, past it where a weight springs */
    public function progress(float $frame): array
    {
        if ($this->thresholds === null) {
            $share = $this->frame === null ? 0.0 : Easing::at($this->ease, ($frame - $this->frame) / max(1e-9, $this->takes));

            return array_fill(0, $this->count(), $share);
        }
        $progress = [];
        foreach ($this->timing->weights($frame) as $v => $weight) {
            $share = ($weight - $this->thresholds[$v]) / (1.0 - $this->thresholds[$v]);
            $progress[] = $share > 1.0 ? $share : Easing::at($this->ease, $share);
        }

        return $progress;
    }

    /**
     * @param list<float> $progress
     *
     * @return list<float> of the weight track
     */
    public function weights(float $frame, array $progress): array
    {
        return $this->timing->shown($frame, $progress);
    }

    /**
     * @param list<float> $progress
     *
     * @return list<float> places of the vertices in the world, m
     */
    public function places(float $frame, array $progress): array
    {
        $transform = $this->prop->transform;
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($transform->rotationAt($frame));
        [$px, $py, $pz] = $transform->positionAt($frame);
        [$sx, $sy, $sz] = $transform->scaleAt($frame);
        $height = $this->height->at($frame);
        $places = [];
        foreach ($progress as $v => $share) {
            [$wx, $wy, $wz] = $this->way[$v];
            $far = $height * $share;
            $x = $sx * ($this->at->x[$v] + $far * $wx);
            $y = $sy * ($this->at->y[$v] + $far * $wy);
            $z = $sz * ($this->at->z[$v] + $far * $wz);
            $places[] = $px + $m0 * $x + $m1 * $y + $m2 * $z;
            $places[] = $py + $m3 * $x + $m4 * $y + $m5 * $z;
            $places[] = $pz + $m6 * $x + $m7 * $y + $m8 * $z;
        }

        return $places;
    }
}

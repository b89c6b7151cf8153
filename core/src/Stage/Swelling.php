<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Easing;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Samples;

/**
 * How places of a prop change with its surface: each goes a way of its own, as far as the change has got there.
 */
final class Swelling
{
    private readonly ?int $frame;

    private readonly Trigger $trigger;

    private readonly float $takes;

    private readonly string $ease;

    /**
     * @param list<array{float, float, float}> $way where each place goes for a height of 1, in the prop's axes, m
     * @param Animated $height how much of its way each goes where the change is full
     * @param float $unit what 1 of that is
     * @param list<float>|null $thresholds weight above which each place rises; null: it does not go by the weight
     * @param Closure(float): list<float> $weights of the places at a frame
     */
    public function __construct(private readonly Prop $prop, private readonly Samples $at, private readonly array $way, private readonly Animated $height, private readonly float $unit, private readonly ?array $thresholds, private readonly Closure $weights)
    {
        $settings = $prop->mover->settings;
        $this->frame = Kinds::trigger($prop->trigger->kind)::frame($prop->trigger->settings);
        $this->trigger = Kinds::trigger($prop->trigger->kind)::make($prop->trigger->settings, array_map(static fn (float $x, float $y, float $z): array => [$x, $y, $z], $at->x, $at->y, $at->z));
        $this->takes = (float) $settings->int('takes');
        $this->ease = $settings->string('ease');
    }

    /** @return list<float> how far each place has got, 0 to 1, past it where a weight springs */
    public function progress(float $frame): array
    {
        if ($this->thresholds === null) {
            return array_map(fn (float $share): float => Easing::at($this->ease, $share), PieceTiming::elapsed($this->trigger, count($this->way), $this->frame, $this->takes, $frame));
        }
        $progress = [];
        foreach (($this->weights)($frame) as $v => $weight) {
            $share = ($weight - $this->thresholds[$v]) / (1.0 - $this->thresholds[$v]);
            $progress[] = $share > 1.0 ? $share : Easing::at($this->ease, $share);
        }

        return $progress;
    }

    /**
     * @param list<float> $progress
     *
     * @return list<float> where the places are in the world, m
     */
    public function places(float $frame, array $progress): array
    {
        $transform = $this->prop->transform;
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($transform->rotationAt($frame));
        [$px, $py, $pz] = $transform->positionAt($frame);
        [$sx, $sy, $sz] = $transform->scaleAt($frame);
        $height = $this->unit * $this->height->at($frame);
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

<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Easing;
use YardBreak\Core\Stage\Kind\Kinds;

/**
 * A prop whose pieces go a way that is set: each by an offset, a turn about its own middle and a scale, all reached as its
 * progress goes from 0 to 1. Progress is the weight above the threshold, there and back, where the weight lets go; otherwise
 * the time since it let go.
 */
final class StagedProp implements KnownWay, PosedParts
{
    private readonly StagedWay $way;

    private readonly PieceTiming $timing;

    /** @var list<float>|null of each piece; null: it does not go by the weight */
    private readonly ?array $thresholds;

    private readonly ?int $frame;

    private readonly float $takes;

    private readonly string $ease;

    /** @var list<DrivenPiece>|null what others meet; made when they ask */
    private ?array $colliders = null;

    /** @var array{float, float} frames between which the step under way leads */
    private array $step = [1.0, 1.0];

    private float $now = 1.0;

    /** @var array<int|string, array{list<float>, list<float>}> places by frame, of this step */
    private array $places = [];

    /** @param int $number among the props that are staged */
    public function __construct(private readonly Prop $prop, private readonly BrokenProp $broken, private readonly int $number, Surfaces $others)
    {
        $settings = $prop->mover->settings;
        $this->timing = new PieceTiming($prop, $broken, $others);
        $this->thresholds = $this->timing->thresholds(count($broken->pieces));
        $this->frame = Kinds::trigger($prop->trigger->kind)::frame($prop->trigger->settings);
        $this->takes = (float) $settings->int('takes');
        $this->ease = $settings->string('ease');
        $this->way = new StagedWay($prop, $broken, $others);
    }

    /** @return list<float> how far each piece is on its way, 0 to 1, and beyond where its time goes on or its weight springs */
    private function shares(float $frame): array
    {
        $count = count($this->broken->pieces);
        if ($this->thresholds !== null) {
            $shares = array_map(static fn (float $w, float $threshold): float => ($w - $threshold) / (1.0 - $threshold), $this->timing->weights($frame), $this->thresholds);
        } else {
            $shares = PieceTiming::elapsed($this->timing->trigger, $count, $this->frame, $this->takes, $frame);
        }
        if ($this->broken->hasCore) {
            $shares[0] = 0.0;
        }

        return $shares;
    }

    /** @return list<bool> whether each piece has come to the end of its way */
    public function arrived(float $frame): array
    {
        return array_map(static fn (float $share): bool => $share >= 1.0, $this->shares($frame));
    }

    /** @return list<float> how far what goes by the weight acts on each piece, 0 to 1 */
    public function felt(float $frame): array
    {
        return $this->timing->felt($frame);
    }

    /** @return list<float> of each piece, 0 to 1, eased */
    public function progress(float $frame): array
    {
        // A weight that springs goes past the end and comes back.
        return array_map(fn (float $share): float => $share > 1.0 ? ($this->thresholds === null ? 1.0 : $share) : Easing::at($this->ease, $share), $this->shares($frame));
    }

    /** @return list<DrivenPiece> its pieces, if others feel them */
    public function colliders(): array
    {
        if ($this->colliders === null) {
            $this->colliders = [];
            $settings = $this->prop->mover->settings;
            if ($settings->bool('felt')) {
                $solid = RigidPieces::of($this->prop, $this->broken, 1.0, false);
                for ($k = 0; $k < $solid->count(); $k++) {
                    $this->colliders[] = new DrivenPiece("{$this->prop->id}/{$k}", $this, $k, $solid, $this->number, $settings->float('friction'), $settings->float('restitution'));
                }
            }
        }

        return $this->colliders;
    }

    /** A step begins. */
    public function setOut(float $from, float $to): void
    {
        $this->step = [$from, $to];
        $this->now = $from;
        $this->places = [];
    }

    /** @param float $share of the step that has gone by */
    public function goOn(float $share): void
    {
        $this->now = $this->step[0] + $share * ($this->step[1] - $this->step[0]);
    }

    public function step(): array
    {
        return $this->step;
    }

    public function now(): float
    {
        return $this->now;
    }

    public function placesAt(float $frame): array
    {
        return $this->places[(string) $frame] ??= $this->place($frame, $this->progress($frame));
    }

    /**
     * @param list<float> $progress
     *
     * @return list<float>
     */
    public function weights(float $frame, array $progress): array
    {
        return $this->timing->shown($frame, $progress);
    }

    public function place(float $frame, array $progress): array
    {
        return $this->way->place($frame, $progress);
    }
}

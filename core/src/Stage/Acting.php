<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Joint;
use YardBreak\Core\Document\Plane;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Motion\Steps;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\WeightSource;

/**
 * A hash for each frame of everything that has acted up to it: what does not change over time, and what does as it was
 * sampled at each step so far. Two shots with the same hash at a frame have the same frames up to there, so what one of them
 * has baked, the other need not bake again.
 */
final class Acting
{
    /** Raised with the movers' results, like a stage's version. */
    private const VERSION = 5;

    private readonly int $steps;

    /** @var list<array{string, ForceField}> its kind and what it acts on, and its field */
    private array $forces = [];

    /** @var list<array{Prop, PieceTiming}> */
    private array $props = [];

    /** @var list<list<Animated>> settings of each one's mover that may change over time */
    private array $settings = [];

    /** @var list<WeightSource> how far each of them is held */
    private array $held = [];

    /** @var array<int, string> by frame; 0: what does not change */
    private array $hashes;

    /** What acts at the first frame. */
    private ?string $first = null;

    /** @param list<BrokenProp> $broken pieces of the shot's props */
    public function __construct(private readonly Shot $shot, string $version, array $broken, Surfaces $others)
    {
        $this->steps = Steps::aFrame($shot->fps);
        foreach ($shot->forces as $force) {
            $this->forces[] = [serialize([$force->kind->kind, $force->props, $force->byWeight]), ShotForces::field($force, $shot, $others)];
        }
        $still = [];
        foreach ($shot->props as $k => $prop) {
            $timing = new PieceTiming($prop, $broken[$k], $others);
            $this->props[] = [$prop, $timing];
            $held = Weighing::held($prop, PropShape::ofPieces($broken[$k], $others));
            $this->held[] = $held;
            $changing = $prop->mover->settings->changing();
            $this->settings[] = array_values($changing);
            $still[] = [$prop->id, $broken[$k]->hash, $prop->mover->kind, array_diff_key($prop->mover->settings->inForce(), $changing), $timing->reads, $timing->weight()->still(), $held->still(), $timing->trigger->still(), ...Kinds::goingBy($prop, $others), ...self::made($prop, $broken[$k], $timing, $held)];
        }
        $planes = array_map(static fn (Plane $plane): array => $plane->inputs(), $shot->planes);
        $joints = array_map(static fn (Joint $joint): array => $joint->inputs(), $shot->joints);
        $this->hashes = [hash('sha256', 'acting' . self::VERSION . $version . serialize([$shot->fps, $shot->settleSpeed, $planes, $still, ...$joints === [] ? [] : [$joints]]))];
    }

    /** @return list<list<float>> the size at which a prop is made that is keyed larger or smaller as long as it is held: it goes by later keys */
    private static function made(Prop $prop, BrokenProp $broken, PieceTiming $timing, WeightSource $held): array
    {
        return $prop->mover->has('held') && $prop->transform->sizeFrames() !== [] ? [KeyedSize::of($prop, $broken, $timing, $held)->made] : [];
    }

    /** @param int $frame below 1: of the pre-roll */
    public function upTo(int $frame): string
    {
        if ($frame < 1) {
            return $this->rolled($frame);
        }
        if (! isset($this->hashes[1])) {
            $this->hashes[1] = $this->rolled(1);
        }
        for ($n = count($this->hashes); $n <= $frame; $n++) {
            $this->hashes[$n] = hash('sha256', $this->hashes[$n - 1] . $this->sample($n));
        }

        return $this->hashes[$frame];
    }

    /** By how long it has gone, not by how long it still will: a longer pre-roll begins like a shorter one. */
    private function rolled(int $frame): string
    {
        $this->first ??= $this->sample(1);
        $gone = $frame - 1 + $this->shot->preRoll;

        return hash('sha256', $this->hashes[0] . $this->first . ($gone > 0 ? "rolled {$gone}" : ''));
    }

    /** What acts on the way to a frame, and at it. */
    private function sample(int $n): string
    {
        $bytes = '';
        for ($s = 0; $s <= $this->steps; $s++) {
            $at = $n === 1 ? 1.0 : $n - 1 + $s / $this->steps;
            // The last step begins before the frame: forces that set in at the frame have not acted yet, nor any at the first but in a pre-roll.
            foreach ($s < $this->steps && ($n > 1 || $this->shot->preRoll > 0) ? $this->forces : [] as [$kind, $force]) {
                $bytes .= $kind . self::doubles($force->sample($at));
            }
            // Pieces read their weight at frames, cloth at each step.
            foreach ($this->props as $k => [$prop, $timing]) {
                $bytes .= self::doubles([...$timing->weight()->sample($at), ...$this->held[$k]->sample($at)]);
                $bytes .= self::doubles(array_map(static fn (Animated $value): float => $value->at($at), $this->settings[$k]));
                $bytes .= self::doubles([...$prop->transform->positionAt($at), ...$prop->transform->rotationAt($at), ...$prop->transform->scaleAt($at)]);
            }
        }
        foreach ($this->props as [, $timing]) {
            // Whether its moment has come; what a weight lets go is decided by what is sampled of the weight.
            $bytes .= $timing->trigger->hasBegun((float) $n) ? '1' : '0';
        }

        foreach ($this->shot->joints as $joint) {
            $bytes .= $joint->cut !== null && $n >= $joint->cut ? '1' : '0';
        }

        return $bytes;
    }

    /** @param list<float> $values */
    private static function doubles(array $values): string
    {
        return $values === [] ? '' : pack('e*', ...array_map(static fn (float $value): float => $value === 0.0 ? 0.0 : $value, $values));
    }

    /**
     * Frames after which something begins to act or to change: where a later edit is likely to set in.
     *
     * @return list<int>
     */
    public function changes(): array
    {
        $frames = [];
        foreach ($this->props as [$prop]) {
            array_push($frames, ...$prop->transform->frames());
            foreach ($prop->mover->settings->changing() as $value) {
                array_push($frames, ...($value->isConstant() ? [] : $value->frames()));
            }
            foreach ([...$prop->weight->stack, ...$prop->held()->stack] as $layer) {
                $source = $layer->choice('source');
                $range = $source->trait('range');
                array_push($frames, ...(is_array($range) && $range !== [] ? [$source->settings->float($range[0])] : []));
            }
            $frames[] = (float) (Kinds::trigger($prop->trigger->kind)::frame($prop->trigger->settings) ?? 0);
        }
        foreach ($this->forces as [, $force]) {
            array_push($frames, ...$force->changes());
        }
        foreach ($this->shot->joints as $joint) {
            $frames[] = (float) ($joint->cut ?? 0);
        }
        $before = [];
        foreach ($frames as $frame) {
            array_push($before, (int) floor($frame) - 1, (int) floor($frame));
        }
        $before = array_values(array_unique(array_filter($before, fn (int $n): bool => $n >= 1 && $n < $this->shot->frames)));
        sort($before);

        return $before;
    }
}

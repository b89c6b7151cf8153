<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\State;

/**
 * A prop whose pieces go a way that is set until they are let go into the world of hard pieces, with the speed and the size that
 * they have then.
 */
final class StagedHardProp extends HardProp
{
    /** A piece that has shrunk to less than this part of itself is not there to fall. */
    private const LEAST = 0.01;

    /** A piece has left home when it has got this far. */
    private const LEFT = 1e-9;

    /** As they were broken. */
    private readonly RigidPieces $made;

    private readonly StagedProp $way;

    private readonly bool $hasCore;

    /** From when all fall; null: each from the end of its way. */
    private readonly ?float $from;

    /** @var list<float> how far each had got at the last frame */
    private array $progress = [];

    /** @var list<float> and at the one before */
    private array $before = [];

    /** @throws BreakFailed */
    public function __construct(Prop $prop, BrokenProp $broken, RigidWorld $world, int $group, Surfaces $others)
    {
        $settings = $prop->mover->settings;
        $this->way = new StagedProp($prop, $broken, $group, $others);
        $this->hasCore = $broken->hasCore;
        $this->from = match ($settings->string('after')) {
            'frame' => (float) $settings->int('fallsAt'),
            // No cue chosen: it never comes.
            'cue' => (float) ($settings->cue('fallsAtCue') ?? INF),
            default => null,
        };
        $this->made = RigidPieces::of($prop, $broken, $settings->float('density'), true);
        $all = $this->made->together(range(0, $this->made->count() - 1));
        [$place, $turn] = [$prop->transform->positionAt(1.0), $prop->transform->rotationAt(1.0)];
        // All of them on one body, and then each on its own: it goes its own way.
        $whole = $world->bodies->addBody($all, $place, $turn, false);
        parent::__construct($prop, new PieceBodies($world->bodies, $this->made, $whole, $all->centre, $group, $settings->float('friction'), $settings->float('restitution')), $settings->float('friction'));
        for ($k = 0; $k < $this->made->count(); $k++) {
            $body = $this->pieces->part([$k], $this->made, $all->centre, $place, $turn);
            $world->bodies->setFree($body, false);
            $world->bodies->place($body, ...$this->poseAt($k, 1.0));
        }
        $this->grow($world, 1.0);
    }

    public function isSized(): bool
    {
        return true;
    }

    public function felt(float $frame): array
    {
        return $this->way->felt($frame);
    }

    public function weights(float $frame): array
    {
        return $this->way->weights($frame, $this->way->progress($frame));
    }

    /** @return array{array{float, float, float}, array{float, float, float, float}} where its way leads a piece */
    private function poseAt(int $piece, float $frame): array
    {
        $poses = $this->way->placesAt($frame)[0];
        $p = 7 * $piece;

        return [[$poses[$p], $poses[$p + 1], $poses[$p + 2]], [$poses[$p + 3], $poses[$p + 4], $poses[$p + 5], $poses[$p + 6]]];
    }

    /** @return array{float, float, float} how large it is there */
    private function scaleAt(int $piece, float $frame): array
    {
        $scales = $this->way->placesAt($frame)[1];
        $p = 3 * $piece;

        return [max(self::LEAST, $scales[$p]), max(self::LEAST, $scales[$p + 1]), max(self::LEAST, $scales[$p + 2])];
    }

    public function drive(RigidWorld $world, float $from, float $to, float $dt): void
    {
        if (! in_array(false, $this->loose, true)) {
            return;
        }
        $this->way->setOut($from, $to);
        foreach ($this->loose as $k => $loose) {
            if ($loose) {
                continue;
            }
            $body = $this->pieces->bodyOf($k);
            [$was, $will] = [$this->scaleAt($k, $from), $this->scaleAt($k, $to)];
            $world->bodies->growFrom($body, $was, $will, $dt);
            if ($was !== $will) {
                $world->wakeNeighbours($body);
            }
            $world->bodies->drive($body, $this->poseAt($k, $from), $this->poseAt($k, $to), $dt);
        }
    }

    public function grow(RigidWorld $world, float $frame): void
    {
        foreach ($this->loose as $k => $loose) {
            if (! $loose && $this->scaleAt($k, $frame) !== $this->pieces->scale($k)) {
                $this->pieces->gather($this->pieces->bodyOf($k), [$k], $this->made->sized($this->scaleAt($k, $frame)));
            }
        }
    }

    public function letGoBy(RigidWorld $world, float $frame): void
    {
        [$this->before, $this->progress] = [$this->progress, $this->way->progress($frame)];
        if (! in_array(false, $this->loose, true) || ($this->from !== null && $frame < $this->from)) {
            return;
        }
        $arrived = $this->from === null ? $this->way->arrived($frame) : [];
        foreach ($this->loose as $k => $loose) {
            if ($loose || ($k === 0 && $this->hasCore) || ($this->from === null && ! $arrived[$k]) || min($this->pieces->scale($k)) <= self::LEAST) {
                continue;
            }
            $body = $this->pieces->bodyOf($k);
            unset($world->bodies->growth[$body]);
            $world->wakeNeighbours($body);
            // The speed that it was driven with is its own from now on.
            $world->bodies->setFree($body, true);
            $this->loose[$k] = true;
        }
    }

    public function colliders(RigidWorld $world): array
    {
        $colliders = [];
        foreach (array_keys($this->loose) as $k) {
            $of = $this->pieces->of($k);
            $colliders[] = $this->collider((string) $k, $world, $this->pieces->bodyOf($k), $this->pieces->centreUnder($k), static fn (): SurfaceTree => $of->surface($k));
        }

        return $colliders;
    }

    public function hasComeOff(int $piece): bool
    {
        return $this->loose[$piece] || ($this->progress[$piece] ?? 0.0) > self::LEFT;
    }

    public function goesItsWay(int $piece): bool
    {
        return ! $this->loose[$piece] && abs(($this->progress[$piece] ?? 0.0) - ($this->before[$piece] ?? $this->progress[$piece] ?? 0.0)) > PosedMover::STILL;
    }

    public function save(): array
    {
        return [...$this->pieces->save(), 'loose' => $this->loose, 'progress' => $this->progress];
    }

    public function restore(State $state): void
    {
        $this->loose = $state->bools('loose');
        $this->progress = $state->floats('progress');
        $this->pieces->restore($state, $this->made);
    }
}

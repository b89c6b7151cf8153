<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\State;

/**
 * What is remembered of two shapes that are near each other: where they were when last looked at, and up to four contact
 * points with the impulses that held them apart (for the warm start). Shape b is -1 for the floor. The normal points from
 * a to b. Untyped number properties on purpose: they are read in hot loops; those that
 * are read for each pair at each step come first, side by side in memory.
 */
final class ContactPair
{
    /** @var int step in which the broad phase last saw the pair */
    public int $seen = 0;

    /** @var float siblings do not feel each other until they have moved this far from where they were in each other, m */
    public $waits = 0.0;

    /** @var int number of contact points */
    public int $count = 0;

    public bool $touched = false;

    /** @var float how far apart the two were when last looked at, m, at least; 0: not known */
    public $gap = 0.0;

    /** @var float from a's centre to b's in the world when last looked at */
    public $dx = 0.0;

    /** @var float */
    public $dy = 0.0;

    /** @var float */
    public $dz = 0.0;

    /** @var float how far a had turned by then, radians */
    public $turnA = 0.0;

    /** @var float */
    public $turnB = 0.0;

    /** @var float|null overlap the pair may keep: siblings start inside each other's hulls and only ever come apart */
    public ?float $allowed = null;

    /** @var float how deep the two were in each other at the last step, m */
    public float $deepest = 0.0;

    /** @var int kind of the last best axis: 0 none, 1 face of a, 2 face of b, 3 edges */
    public int $axisKind = 0;

    public int $axisA = 0;

    public int $axisB = 0;

    /** @var list<float> place of b seen from a when the points were made: rotation row by row, then translation */
    public array $pose = [];

    /** @var array{float, float, float} normal in a's axes */
    public array $normal = [0.0, 1.0, 0.0];

    /** @var array<int, float> three numbers a point: place on a, in a's axes from its centre */
    public array $onA = [];

    /** @var array<int, float> three numbers a point: place on b, in b's axes from its centre; for the floor: in the world */
    public array $onB = [];

    /** @var array<int, float> three numbers a point: impulses along the normal and two tangents, N s */
    public array $impulse = [];

    public function __construct(
        public readonly int $a,
        public readonly int $b,
        public readonly bool $siblings,
    ) {
    }

    /**
     * Takes new contact points; those near an old one inherit its impulses.
     *
     * @param list<float> $onA
     * @param list<float> $onB
     */
    public function renew(array $onA, array $onB, float $matchDistance): void
    {
        // Without points that does not tell how far apart they are: a gap of before would keep them from being looked at.
        $this->gap = 0.0;
        $old = $this->onA;
        $oldImpulse = $this->impulse;
        $oldCount = $this->count;
        $count = intdiv(count($onA), 3);
        $impulse = array_fill(0, 3 * $count, 0.0);
        $limit = $matchDistance * $matchDistance;
        for ($p = 0; $p < $count; $p++) {
            $k = 3 * $p;
            $best = $limit;
            $from = -1;
            for ($q = 0; $q < $oldCount; $q++) {
                $dx = $old[3 * $q] - $onA[$k];
                $dy = $old[3 * $q + 1] - $onA[$k + 1];
                $dz = $old[3 * $q + 2] - $onA[$k + 2];
                $d = $dx * $dx + $dy * $dy + $dz * $dz;
                if ($d < $best) {
                    $best = $d;
                    $from = 3 * $q;
                }
            }
            if ($from >= 0) {
                $impulse[$k] = $oldImpulse[$from];
                $impulse[$k + 1] = $oldImpulse[$from + 1];
                $impulse[$k + 2] = $oldImpulse[$from + 2];
            }
        }
        $this->onA = $onA;
        $this->onB = $onB;
        $this->impulse = $impulse;
        $this->count = $count;
    }

    public function clear(): void
    {
        $this->count = 0;
        $this->onA = [];
        $this->onB = [];
        $this->impulse = [];
    }

    /** No contact: the two are this far apart, m. */
    public function part(float $gap): void
    {
        $this->clear();
        $this->gap = $gap;
    }

    /**
     * Whether the two cannot press on each other in a step: they did not in the last, and are either farther apart than they come
     * nearer, or siblings that start in each other and do not move against each other.
     *
     * @param float $drift how far they have moved against each other since they were last looked at, m
     * @param float $closing how far they may come nearer in the step, m
     * @param float $radius of the smaller one, m
     */
    public function staysClear(float $drift, float $closing, float $radius): bool
    {
        return ! $this->touched && ($this->gap - $drift > $closing || ($this->allowed !== null && $drift + $closing < RigidTuning::TOGETHER * $radius));
    }

    /** From its properties by name. */
    public static function restored(State $state): self
    {
        $pair = new self($state->int('a'), $state->int('b'), $state->bool('siblings'));
        $pair->seen = $state->int('seen');
        $pair->touched = $state->bool('touched');
        $pair->deepest = $state->float('deepest');
        $pair->allowed = $state->has('allowed') ? $state->float('allowed') : null;
        $pair->waits = $state->float('waits');
        $pair->gap = $state->float('gap');
        $pair->dx = $state->float('dx');
        $pair->dy = $state->float('dy');
        $pair->dz = $state->float('dz');
        $pair->turnA = $state->float('turnA');
        $pair->turnB = $state->float('turnB');
        $pair->axisKind = $state->int('axisKind');
        $pair->axisA = $state->int('axisA');
        $pair->axisB = $state->int('axisB');
        $pair->pose = $state->floats('pose');
        $pair->normal = $state->vector('normal');
        $pair->count = $state->int('count');
        $pair->onA = $state->floats('onA');
        $pair->onB = $state->floats('onB');
        $pair->impulse = $state->floats('impulse');

        return $pair;
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Motion\State;

/** What is known of a piece that is touched again and again, since some place. */
final class Wedged
{
    public int $steps = 0;

    /** Step in which it was touched last. */
    public int $touched = 0;

    /** How many times another side touched it than before. */
    public int $changes = 0;

    /** @var array{float, float, float} what it was pulled by when it was touched last, m/s2 */
    public array $pull = [0.0, 0.0, 0.0];

    /** @var list<string> names of what touched it, the last one last */
    public array $sides = [];

    /**
     * @param array{float, float, float} $place where it was then
     * @param array{float, float, float} $normal which way the side faces that touched it last
     */
    public function __construct(public readonly array $place, public array $normal)
    {
    }

    /**
     * @param array{float, float, float} $normal
     * @param array{float, float, float} $pull
     * @param bool $other whether that is another side than before
     */
    public function touches(string $name, array $normal, array $pull, bool $other): void
    {
        $this->sides = [...array_values(array_diff($this->sides, [$name])), $name];
        [$this->normal, $this->pull, $this->touched] = [$normal, $pull, $this->steps];
        $this->changes += $other ? 1 : 0;
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['place' => $this->place, 'normal' => $this->normal, 'pull' => $this->pull, 'steps' => $this->steps, 'touched' => $this->touched, 'changes' => $this->changes, 'sides' => $this->sides];
    }

    public static function read(State $saved): self
    {
        $piece = new self($saved->vector('place'), $saved->vector('normal'));
        $piece->pull = $saved->vector('pull');
        [$piece->steps, $piece->touched, $piece->changes] = [$saved->int('steps'), $saved->int('touched'), $saved->int('changes')];
        $piece->sides = $saved->strings('sides');

        return $piece;
    }
}

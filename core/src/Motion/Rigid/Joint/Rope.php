<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Vector;

/** Two places that never get farther apart than its length; it pulls, and does not push. */
final class Rope extends Joint
{
    /** From the first end to the second, unit. */
    private const UP = [0.0, 1.0, 0.0];

    /** @var array{float, float, float} from the first end to the second, unit */
    private array $way = self::UP;

    private float $far = 0.0;

    /** N s, at most 0. */
    private float $given = 0.0;

    /** @param float $length m */
    public function __construct(JointEnd $a, JointEnd $b, float $strength, bool $touch, private readonly float $length)
    {
        parent::__construct($a, $b, $strength, $touch);
    }

    public function isTaut(): bool
    {
        return $this->far >= 0.999 * $this->length;
    }

    protected function ready(): void
    {
        $apart = Vector::minus($this->b->place, $this->a->place);
        $this->far = sqrt(Vector::dot($apart, $apart));
        $this->way = Vector::unit($apart) ?? self::UP;
    }

    protected function again(array &$v, array $im, array $ii): void
    {
        if ($this->given !== 0.0) {
            $this->give($v, $im, $ii, $this->along($this->given));
        }
    }

    protected function act(array &$v, array $im, array $ii, float $h, bool $push): void
    {
        $over = $this->far - $this->length;
        $mass = 1.0 / $this->gives($im, $ii, $this->way);
        $parting = Vector::dot($this->way, $this->parting($v));
        if ($over < 0.0) {
            // Slack, it lets them part as far as it reaches.
            $impulse = -$mass * ($parting + $over / $h);
        } elseif ($push) {
            [$rate, $apply, $drop] = self::stiff($h);
            $impulse = -$mass * $apply * ($parting + $rate * $over) - $drop * $this->given;
        } else {
            $impulse = -$mass * $parting;
        }
        $now = min(0.0, $this->given + $impulse);
        if ($now !== $this->given) {
            $this->give($v, $im, $ii, $this->along($now - $this->given));
            $this->given = $now;
        }
    }

    protected function impulse(): float
    {
        return -$this->given;
    }

    public function save(): array
    {
        return [$this->given];
    }

    public function restore(array $saved): void
    {
        $this->given = $saved[0];
    }

    /** @return array{float, float, float} */
    private function along(float $impulse): array
    {
        return [$impulse * $this->way[0], $impulse * $this->way[1], $impulse * $this->way[2]];
    }
}

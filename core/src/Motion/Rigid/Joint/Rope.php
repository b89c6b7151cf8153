<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Math\Vector;

/** Two places that never get farther apart than its length; it pulls, and does not push: what it gives is at most 0. */
final class Rope extends Straight
{
    /** So near to its length it is as good as taut. */
    private const TAUT = 0.999;

    public function isTaut(): bool
    {
        return $this->far >= self::TAUT * $this->length;
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
        $this->giveAlong($v, $im, $ii, $now - $this->given);
        $this->given = $now;
    }
}

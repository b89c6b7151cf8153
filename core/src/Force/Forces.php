<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use Closure;

/** All forces of a shot, as one mover's things feel them. Its things are in groups, one a prop. */
final readonly class Forces
{
    /** @param list<array{ForceField, list<int>|null, bool}> $fields each with the groups it acts on (null: all), and whether it is only as strong as the weight */
    public function __construct(private array $fields)
    {
    }

    /** @return array{float, float, float} acceleration by those that are the same everywhere and for all, m/s2 */
    public function uniform(float $frame): array
    {
        $sum = [0.0, 0.0, 0.0];
        foreach ($this->fields as [$field, $groups, $byWeight]) {
            $a = $groups === null && ! $byWeight ? $field->uniform($frame) : null;
            if ($a !== null) {
                $sum = [$sum[0] + $a[0], $sum[1] + $a[1], $sum[2] + $a[2]];
            }
        }

        return $sum;
    }

    /** Those that uniform() leaves out. */
    public function uneven(): self
    {
        return new self(array_values(array_filter($this->fields, static fn (array $field): bool => $field[1] !== null || $field[2] || $field[0]->uniform(1.0) === null)));
    }

    public function isEmpty(): bool
    {
        return $this->fields === [];
    }

    /** Whether any of them moves the air of a group. */
    public function moveAir(int $group): bool
    {
        foreach ($this->fields as [$field, $groups]) {
            if ($field->movesAir() && ($groups === null || in_array($group, $groups, true))) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param list<float> $x places in the world, m
     * @param list<float> $y
     * @param list<float> $z
     * @param list<int> $group of each
     * @param Closure(): list<float> $weights of each, 0 to 1; asked for at most once
     */
    public function at(array $x, array $y, array $z, array $group, float $frame, float $seconds, Closure $weights): Pushes
    {
        $pushes = new Pushes(count($x));
        $known = null;
        foreach ($this->fields as [$field, $groups, $byWeight]) {
            if ($groups === null && ! $byWeight) {
                $field->act($x, $y, $z, $frame, $seconds, $pushes);
                continue;
            }
            $some = $groups === null ? array_keys($group) : array_keys(array_filter($group, static fn (int $g): bool => in_array($g, $groups, true)));
            if ($some === []) {
                continue;
            }
            $own = new Pushes(count($some));
            $field->act(self::picked($x, $some), self::picked($y, $some), self::picked($z, $some), $frame, $seconds, $own);
            $pushes->add($own, $some, $byWeight ? self::picked($known ??= $weights(), $some) : null);
        }

        return $pushes;
    }

    /**
     * @param list<float> $values
     * @param list<int> $some
     *
     * @return list<float>
     */
    private static function picked(array $values, array $some): array
    {
        return array_map(static fn (int $i): float => $values[$i], $some);
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use LogicException;

/**
 * What a solver saved, read back with its types. Lists come back packed, as hot loops need them; numbers keep every bit
 * (PHP writes the shortest text that reads back the same).
 */
final readonly class State
{
    /** @param array<mixed> $values */
    public function __construct(private array $values)
    {
    }

    /** @param array<string, mixed> $values */
    public static function pack(array $values): string
    {
        return serialize($values);
    }

    public static function read(string $state): self
    {
        $values = @unserialize($state, ['allowed_classes' => false]);

        return is_array($values) ? new self($values) : throw new LogicException('This is no saved state.');
    }

    public function int(string $name): int
    {
        return is_int($this->values[$name] ?? null) ? $this->values[$name] : throw $this->fault($name);
    }

    public function float(string $name): float
    {
        return is_float($this->values[$name] ?? null) ? $this->values[$name] : throw $this->fault($name);
    }

    public function bool(string $name): bool
    {
        return is_bool($this->values[$name] ?? null) ? $this->values[$name] : throw $this->fault($name);
    }

    public function string(string $name): string
    {
        return is_string($this->values[$name] ?? null) ? $this->values[$name] : throw $this->fault($name);
    }

    public function has(string $name): bool
    {
        return isset($this->values[$name]);
    }

    /** @return list<string> */
    public function strings(string $name): array
    {
        $list = [];
        foreach ($this->array($name) as $value) {
            $list[] = is_string($value) ? $value : throw $this->fault($name);
        }

        return $list;
    }

    /** @return list<float> */
    public function floats(string $name): array
    {
        $list = [];
        foreach ($this->array($name) as $value) {
            $list[] = is_float($value) ? $value : throw $this->fault($name);
        }

        return $list;
    }

    /** @return array{list<float>, list<float>, list<float>} three lists of the same length that were saved one after the other */
    public function thrice(string $name): array
    {
        $all = $this->floats($name);
        $n = intdiv(count($all), 3);

        return [array_slice($all, 0, $n), array_slice($all, $n, $n), array_slice($all, 2 * $n)];
    }

    /** @return list<int> */
    public function ints(string $name): array
    {
        $list = [];
        foreach ($this->array($name) as $value) {
            $list[] = is_int($value) ? $value : throw $this->fault($name);
        }

        return $list;
    }

    /** @return list<bool> */
    public function bools(string $name): array
    {
        $list = [];
        foreach ($this->array($name) as $value) {
            $list[] = is_bool($value) ? $value : throw $this->fault($name);
        }

        return $list;
    }

    /** @return array{float, float, float} */
    public function vector(string $name): array
    {
        $list = $this->floats($name);

        return count($list) === 3 ? [$list[0], $list[1], $list[2]] : throw $this->fault($name);
    }

    public function part(string $name): self
    {
        return new self($this->array($name));
    }

    /** @return array<int, self> by its keys, in order */
    public function parts(string $name): array
    {
        $parts = [];
        foreach ($this->array($name) as $key => $value) {
            $parts[(int) $key] = is_array($value) ? new self($value) : throw $this->fault($name);
        }

        return $parts;
    }

    /** @return array<mixed> */
    private function array(string $name): array
    {
        return is_array($this->values[$name] ?? null) ? $this->values[$name] : throw $this->fault($name);
    }

    private function fault(string $name): LogicException
    {
        return new LogicException("The saved state has no {$name}, or another kind of it.");
    }
}

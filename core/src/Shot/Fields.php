<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Math\Animated;

/** Typed access to a completed document, with the place of each value for messages. */
final class Fields
{
    /** @var array<string, array{name: string, frame: int}> */
    public array $cues = [];

    /** @param array<mixed> $values */
    public function __construct(private readonly array $values, private readonly string $pointer)
    {
    }

    public function at(string $key): self
    {
        $value = $this->values[$key] ?? [];

        return $this->child(is_array($value) ? $value : [], $key);
    }

    /** @return list<self> */
    public function list(string $key): array
    {
        $items = [];
        $values = $this->values[$key] ?? [];
        foreach (is_array($values) ? array_values($values) : [] as $k => $value) {
            $items[] = $this->child(is_array($value) ? $value : [], "{$key}/{$k}");
        }

        return $items;
    }

    /** @param array<mixed> $values */
    private function child(array $values, string $key): self
    {
        $child = new self($values, "{$this->pointer}/{$key}");
        $child->cues = $this->cues;

        return $child;
    }

    public function string(string $key): string
    {
        $value = $this->values[$key] ?? '';

        return is_string($value) ? $value : '';
    }

    public function int(string $key): int
    {
        $value = $this->values[$key] ?? 0;

        return is_int($value) || is_float($value) ? (int) $value : 0;
    }

    public function float(string $key): float
    {
        $value = $this->values[$key] ?? 0.0;

        return is_int($value) || is_float($value) ? (float) $value : 0.0;
    }

    public function bool(string $key): bool
    {
        return ($this->values[$key] ?? false) === true;
    }

    /** @return list<array{float, float}> */
    public function points(string $key): array
    {
        $points = [];
        $values = $this->values[$key] ?? [];
        foreach (is_array($values) ? $values : [] as $point) {
            $numbers = is_array($point) ? array_values($point) : [];
            $u = $numbers[0] ?? 0;
            $v = $numbers[1] ?? 0;
            $points[] = [is_int($u) || is_float($u) ? (float) $u : 0.0, is_int($v) || is_float($v) ? (float) $v : 0.0];
        }

        return $points;
    }

    /** @return array{float, float, float} the fields x, y and z */
    public function vector(): array
    {
        return [$this->float('x'), $this->float('y'), $this->float('z')];
    }

    /** @return array{float, float, float} a list of three numbers */
    public function numbers(string $key): array
    {
        $list = new self(is_array($this->values[$key] ?? null) ? $this->values[$key] : [], '');

        return [$list->float('0'), $list->float('1'), $list->float('2')];
    }

    /** @throws BadDocument */
    public function animated(string $key): Animated
    {
        $value = $this->values[$key] ?? 0.0;
        if (! is_array($value)) {
            return Animated::constant($this->float($key));
        }
        $keys = [];
        $schema = ShotSchema::load()->field([...array_slice(explode('/', $this->pointer), 1), $key]);
        foreach ($this->at($key)->list('keys') as $fields) {
            $frame = $fields->float('frame');
            $cue = $fields->string('cue');
            [$low, $high] = [$schema['minimum'] ?? null, $schema['maximum'] ?? null];
            if (is_numeric($low) && is_numeric($high) && ($fields->float('value') < $low || $fields->float('value') > $high)) {
                throw $fields->wrong('value', (is_string($schema['title'] ?? null) ? $schema['title'] : 'A key') . " must be from {$low} to {$high}.");
            }
            if ($cue !== '') {
                if (! isset($this->cues[$cue])) {
                    throw $fields->wrong('cue', "There is no cue “{$cue}”. Choose another, or give the key a frame.");
                }
                $frame = $this->cues[$cue]['frame'] + $fields->float('offset');
            }
            foreach ($keys as [$other]) {
                if ($other === $frame) {
                    throw $fields->wrong('frame', "Two keys stand at frame {$frame}. Move or delete one.");
                }
            }
            $keys[] = [$frame, $fields->float('value'), $fields->string('ease')];
        }

        return $keys === [] ? Animated::constant(0.0) : Animated::keyed($keys);
    }

    public function wrong(string $key, string $detail): BadDocument
    {
        return new BadDocument([['pointer' => "{$this->pointer}/{$key}", 'detail' => $detail]]);
    }
}

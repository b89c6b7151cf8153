<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use LogicException;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Curve;

/**
 * Typed reading of a part of a complete document, with the place of each value for messages. Asking for a setting that the
 * schema does not have is a fault of ours and is said as such, never answered with a zero.
 */
final readonly class Settings
{
    /**
     * @param array<mixed> $values
     * @param list<string> $path to these values
     * @param array<string, array{name: string, frame: int}> $cues by id
     * @param array<mixed> $top values of the prop (force, plane) that these are a part of
     */
    private function __construct(
        public Schema $schema,
        private array $values,
        private array $path,
        private array $cues,
        private array $top,
    ) {
    }

    /**
     * @param array<mixed> $document complete
     * @param array<string, array{name: string, frame: int}> $cues
     */
    public static function of(array $document, array $cues = []): self
    {
        return new self(Schema::load(), $document, [], $cues, $document);
    }

    /** @return array<mixed> */
    public function values(): array
    {
        return $this->values;
    }

    /** Where these stand, as a JSON Pointer. */
    public function pointer(): string
    {
        return implode('', array_map(static fn (string $step): string => "/{$step}", $this->path));
    }

    public function at(string $key): self
    {
        $value = $this->value($key);

        return is_array($value) ? $this->child($value, $key) : throw $this->fault($key, 'no object');
    }

    /** @return list<self> */
    public function list(string $key): array
    {
        $items = [];
        $values = $this->value($key);
        foreach (is_array($values) ? array_values($values) : throw $this->fault($key, 'no list') as $k => $value) {
            $items[] = $this->child(is_array($value) ? $value : [], $key, (string) $k);
        }

        return $items;
    }

    /** The kind that a field names, with its settings. */
    public function choice(string $as): Choice
    {
        $kind = $this->string($as);
        $registry = $this->schema->field([...$this->path, $as])['x-choice'] ?? null;

        return is_string($registry) ? new Choice($registry, $kind, $this->at($kind)) : throw $this->fault($as, 'no choice of kinds');
    }

    /** @param array<mixed> $values */
    private function child(array $values, string ...$key): self
    {
        $path = [...$this->path, ...array_values($key)];

        // What stands in a list of the shot is a whole of its own.
        return new self($this->schema, $values, $path, $this->cues, count($path) <= 2 ? $values : $this->top);
    }

    private function value(string $key): mixed
    {
        return array_key_exists($key, $this->values) ? $this->values[$key] : throw $this->fault($key, 'missing');
    }

    private function fault(string $key, string $what): LogicException
    {
        return new LogicException('The setting ' . implode('/', [...$this->path, $key]) . " is {$what}.");
    }

    public function has(string $key): bool
    {
        return array_key_exists($key, $this->values);
    }

    public function string(string $key): string
    {
        $value = $this->value($key);

        return is_string($value) ? $value : throw $this->fault($key, 'no text');
    }

    public function int(string $key): int
    {
        $value = $this->value($key);

        return is_int($value) || is_float($value) ? (int) $value : throw $this->fault($key, 'no number');
    }

    public function float(string $key): float
    {
        $value = $this->value($key);

        return is_int($value) || is_float($value) ? (float) $value : throw $this->fault($key, 'no number');
    }

    public function bool(string $key): bool
    {
        $value = $this->value($key);

        return is_bool($value) ? $value : throw $this->fault($key, 'no switch');
    }

    /** @return list<string> */
    public function strings(string $key): array
    {
        $values = $this->value($key);

        return array_values(array_filter(is_array($values) ? $values : throw $this->fault($key, 'no list'), is_string(...)));
    }

    /** @return list<array{float, float}> */
    public function points(string $key): array
    {
        $points = [];
        $values = $this->value($key);
        foreach (is_array($values) ? $values : throw $this->fault($key, 'no list') as $point) {
            $numbers = is_array($point) ? array_values($point) : [];
            [$u, $v] = [$numbers[0] ?? null, $numbers[1] ?? null];
            if (! is_int($u) && ! is_float($u) || ! is_int($v) && ! is_float($v)) {
                throw $this->fault($key, 'no list of points');
            }
            $points[] = [(float) $u, (float) $v];
        }

        return $points;
    }

    /** @throws BadDocument if its points do not go from left to right */
    public function curve(string $key): Curve
    {
        $points = $this->points($key);
        $before = -INF;
        foreach ($points as [$x]) {
            if ($x <= $before) {
                throw $this->wrong($key, 'The points of a curve must go from left to right, no two of them above each other.');
            }
            $before = $x;
        }

        return new Curve($points === [] ? [[0.0, 0.0]] : $points);
    }

    /** @return array{float, float, float} the settings x, y and z of an object */
    public function vector(string $key): array
    {
        $at = $this->at($key);

        return [$at->float('x'), $at->float('y'), $at->float('z')];
    }

    /**
     * @return list<Animated> the same, where they may change over time
     *
     * @throws BadDocument
     */
    public function animatedVector(string $key): array
    {
        $at = $this->at($key);

        return array_map($at->animated(...), ['x', 'y', 'z']);
    }

    /** @return list<array{float, float, float}> of a list of such objects */
    public function vectors(string $key): array
    {
        return array_map(static fn (self $at): array => [$at->float('x'), $at->float('y'), $at->float('z')], $this->list($key));
    }

    /** @return array{float, float, float} a list of three numbers */
    public function numbers(string $key): array
    {
        $list = $this->at($key);

        return [$list->float('0'), $list->float('1'), $list->float('2')];
    }

    /** The frame of a cue, by its id; null: none is chosen.
     *
     * @throws BadDocument if there is no such cue
     */
    public function cue(string $key): ?int
    {
        $cue = $this->string($key);
        if ($cue === '') {
            return null;
        }

        return $this->cues[$cue]['frame'] ?? throw $this->wrong($key, "There is no cue “{$cue}”. Choose another, or add it on the cue strip.");
    }

    /** @return list<string> names of the kinds that were not chosen here: what was set of them is only kept */
    public function idle(): array
    {
        return $this->schema->chosen($this->schema->field($this->path), $this->values)[1];
    }

    /** @return array<mixed> the schema of a setting */
    public function fieldOf(string $key): array
    {
        return $this->schema->field([...$this->path, $key]);
    }

    /** Whether a number that may change over time has keys. */
    public function isKeyed(string $key): bool
    {
        return is_array($this->value($key)) && ($this->schema->field([...$this->path, $key])['x-animatable'] ?? false) === true;
    }

    /**
     * Its numbers that may change over time, keyed or not.
     *
     * @return array<string, Animated> by name
     *
     * @throws BadDocument
     */
    public function changing(): array
    {
        $numbers = [];
        foreach (array_keys($this->values) as $name) {
            if (($this->fieldOf((string) $name)['x-animatable'] ?? false) === true) {
                $numbers[(string) $name] = $this->animated((string) $name);
            }
        }

        return $numbers;
    }

    /** @throws BadDocument */
    public function animated(string $key): Animated
    {
        $value = $this->value($key);
        if (! is_array($value)) {
            return Animated::constant($this->float($key));
        }
        $keys = [];
        $schema = $this->schema->field([...$this->path, $key]);
        [$low, $high] = [$schema['minimum'] ?? null, $schema['maximum'] ?? null];
        foreach ($this->at($key)->list('keys') as $fields) {
            $number = $fields->float('value');
            if (is_numeric($low) && is_numeric($high) && ($number < $low || $number > $high)) {
                throw $fields->wrong('value', (is_string($schema['title'] ?? null) ? $schema['title'] : 'A key') . " must be from {$low} to {$high}.");
            }
            if ($fields->has('cue') && $fields->string('cue') !== '') {
                $cue = $fields->string('cue');
                $frame = isset($this->cues[$cue]) ? $this->cues[$cue]['frame'] + $fields->float('offset')
                    : throw $fields->wrong('cue', "There is no cue “{$cue}”. Choose another, or give the key a frame.");
            } else {
                $frame = $fields->has('frame') ? $fields->float('frame') : throw $fields->wrong('frame', 'A key needs a frame or a cue.');
            }
            foreach ($keys as [$other]) {
                if ($other === $frame) {
                    throw $fields->wrong('frame', "Two keys stand at frame {$frame}. Move or delete one.");
                }
            }
            $keys[] = [$frame, $number, $fields->string('ease'), $fields->string('ease') === 'curve' ? $fields->handles() : null];
        }
        $settings = $this->at($key);

        return $keys === [] ? throw $this->fault($key, 'without keys') : Animated::keyed(
            $keys,
            $settings->has('before') ? $settings->string('before') : 'hold',
            $settings->has('after') ? $settings->string('after') : 'hold',
            is_numeric($low) ? (float) $low : -INF,
            is_numeric($high) ? (float) $high : INF,
        );
    }

    /**
     * @return array{float, float, float, float} control points of a key's own curve; without any it goes smoothly
     *
     * @throws BadDocument
     */
    private function handles(): array
    {
        $points = $this->has('handles') ? $this->points('handles') : [];
        foreach ($points as [$time]) {
            if ($time < 0.0 || $time > 1.0) {
                throw $this->wrong('handles', 'A handle’s time must be from 0 to 1: else the curve would run back in time.');
            }
        }

        return [...$points[0] ?? [0.42, 0.0], ...$points[1] ?? [0.58, 1.0]];
    }

    /**
     * The settings that matter as the others are: what the form shows. Names that only people read are left out.
     *
     * @return array<mixed>
     *
     * @throws BadDocument if a key hangs on a cue that is not there
     */
    public function inForce(): array
    {
        $values = $this->inForceOf($this->values, $this->path);

        return is_array($values) ? $values : [];
    }

    /** @param list<string> $path */
    private function inForceOf(mixed $value, array $path): mixed
    {
        if (! is_array($value)) {
            return is_int($value) ? (float) $value : $value;
        }
        $field = $this->schema->field($path);
        [, $others] = $this->schema->chosen($field, $value);
        $kept = [];
        foreach ($value as $name => $item) {
            $inner = $this->schema->field([...$path, (string) $name]);
            // How it is mixed in says nothing of the first in a list.
            $first = ($inner['x-later'] ?? false) === true && end($path) === '0';
            if ($first || in_array($name, $others, true) || ($inner['x-note'] ?? false) === true) {
                continue;
            }
            if (isset($field['properties']) && ! Conditions::hold($inner['x-when'] ?? true, $value, $this->top, $this->schema)) {
                continue;
            }
            $here = new self($this->schema, $value, $path, $this->cues, $this->top);
            // Keys where they stand and cues when they come, so that a cue that is moved is a change of all that hangs on it.
            $kept[$name] = match (true) {
                ($inner['x-animatable'] ?? false) === true && is_array($item) => $here->animated((string) $name)->inputs(),
                ($inner['x-cue'] ?? false) === true => $here->cue((string) $name),
                default => $this->inForceOf($item, [...$path, (string) $name]),
            };
        }

        return $kept;
    }

    public function wrong(string $key, string $detail): BadDocument
    {
        return new BadDocument([['pointer' => '/' . implode('/', [...$this->path, $key]), 'detail' => $detail]]);
    }
}

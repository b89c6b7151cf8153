<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Document\Schema;
use YardBreak\Core\Math\RandomStream;

/** Shots drawn at random from the schema: any kind beside any other, numbers near their defaults, anywhere within their limits, and at their ends. */
final class RandomShot
{
    private const SOURCES = ['box', 'box', 'ball', 'cylinder', 'cone', 'jar', 'pyramid', 'sheet', 'torus', 'lathe', 'lettering'];

    private const PATTERNS = ['whole', 'cellular', 'cellular', 'halving', 'grain', 'web', 'courses', 'breach', 'copies', 'bits', 'flakes', 'faces', 'parts', 'patches'];

    private const MOVERS = ['rigid', 'rigid', 'rigid', 'light', 'cloth', 'cloth', 'soft', 'soft', 'staged', 'swell'];

    private const TRIGGERS = ['frame', 'frame', 'weight', 'weight', 'cue', 'contact', 'never'];

    private const WEIGHTS = ['noise', 'sweep', 'zone', 'bands', 'spread', 'rim', 'ring', 'facing', 'reach', 'blow'];

    private const FORCES = ['gravity', 'gravity', 'wind', 'turbulence', 'pull', 'swirl', 'drag', 'blast'];

    /** Counts are kept so small that a shot takes seconds: what matches the name is at most so many. */
    private const LIMITS = ['divisions|fineness|segments' => 14, 'even' => 1200, 'smooth|divide' => 1, 'count|pieces|columns|rows|rays|rings|bits|copies|cells|lines' => 60];

    private readonly RandomStream $random;

    /** @var array<string, mixed> */
    private readonly array $schema;

    private function __construct(int $seed)
    {
        $this->random = RandomStream::named($seed, 'shot');
        $this->schema = Schema::load()->json();
    }

    /** @return array<string, mixed> the document of a shot of 16 frames */
    public static function document(int $seed): array
    {
        return (new self($seed))->shot();
    }

    /** @return array<string, mixed> */
    private function shot(): array
    {
        $ids = array_slice(['a', 'b', 'c'], 0, 1 + $this->below(3));
        $forces = [];
        for ($k = $this->below(4); $k > 0; $k--) {
            $forces[] = ['id' => "f{$k}", 'name' => "F{$k}", ...$this->choice('force', 'force', self::FORCES, 0.3)];
        }

        return [
            'version' => 2, 'frames' => 16, 'preRoll' => $this->chance(0.2) ? $this->below(8) : 0,
            'cues' => [['id' => 'q', 'name' => 'Q', 'frame' => 5]],
            'props' => array_map(fn (string $id): array => $this->prop($id, array_values(array_diff($ids, [$id]))), $ids),
            'forces' => $forces,
            'planes' => $this->chance(0.85) ? [['id' => 'floor', 'name' => 'Floor']] : [],
        ];
    }

    /**
     * @param list<string> $others
     *
     * @return array<string, mixed>
     */
    private function prop(string $id, array $others): array
    {
        $keyed = fn (float $low, float $high): array => ['keys' => [['frame' => 1, 'value' => $this->random->between($low, $high)], ['frame' => 9, 'value' => $this->random->between($low, $high)]]];
        $trigger = $this->choice('trigger', 'trigger', self::TRIGGERS, 0.3);
        $trigger['cue'] = [...$trigger['cue'] ?? [], 'cue' => 'q'];
        $motion = $this->choice('mover', 'mover', self::MOVERS, 0.25);
        if (in_array($motion['mover'], ['cloth', 'soft'], true) && $this->chance(0.4)) {
            $motion[$motion['mover']]['hold'] = [['source' => 'rim']];
        }
        $stack = [];
        for ($k = $this->below(3); $k > 0; $k--) {
            $layer = $this->choice('weight', 'source', self::WEIGHTS, 0.3);
            if ($layer['source'] === 'reach') {
                $layer['reach']['props'] = $others;
            }
            $stack[] = $layer;
        }
        $prepare = is_array($this->schema['$defs']) ? $this->schema['$defs']['prop']['properties']['prepare'] : [];

        return [
            'id' => $id, 'name' => strtoupper($id),
            'source' => $this->choice('source', 'kind', self::SOURCES, 0.25),
            'prepare' => $this->chance(0.25) ? $this->settings($prepare, 0.15) : [],
            'position' => ['x' => $this->chance(0.2) ? $keyed(-1.5, 1.5) : $this->random->between(-0.5, 0.5), 'y' => $this->random->between(0.2, 1.8), 'z' => $this->random->between(-0.5, 0.5)],
            'rotation' => ['x' => $this->random->between(-30.0, 30.0), 'z' => $this->random->between(-30.0, 30.0)],
            'scale' => $this->chance(0.2) ? ['x' => $keyed(0.3, 1.3)] : [],
            'break' => $this->choice('pattern', 'pattern', self::PATTERNS, 0.3),
            'weight' => ['stack' => $stack],
            'release' => $trigger,
            'motion' => $motion,
        ];
    }

    /**
     * @param list<string> $kinds
     *
     * @return array<string, mixed> a kind, and settings of it
     */
    private function choice(string $registry, string $as, array $kinds, float $chance): array
    {
        $kind = $kinds[$this->below(count($kinds))];
        $definitions = $this->schema['$defs'];

        return [$as => $kind, $kind => $this->settings(is_array($definitions) ? $definitions["{$registry}.{$kind}"] : [], $chance)];
    }

    /**
     * @param array<string, mixed> $schema of an object
     * @param float $chance that a setting is another than its default
     *
     * @return array<string, mixed>
     */
    private function settings(array $schema, float $chance): array
    {
        $settings = [];
        foreach ($schema['properties'] ?? [] as $name => $setting) {
            $value = $this->value((string) $name, $this->resolved($setting), $chance);
            if ($value !== null && $value !== []) {
                $settings[$name] = $value;
            }
        }

        return $settings;
    }

    /**
     * @param array<string, mixed> $schema
     *
     * @return array<string, mixed> with what it refers to
     */
    private function resolved(array $schema): array
    {
        while (isset($schema['$ref'])) {
            $at = $this->schema;
            foreach (explode('/', substr($schema['$ref'], 2)) as $step) {
                $at = $at[$step];
            }
            unset($schema['$ref']);
            $schema += $at;
        }

        return $schema;
    }

    /**
     * @param array<string, mixed> $schema
     *
     * @return mixed null: its default
     */
    private function value(string $name, array $schema, float $chance): mixed
    {
        foreach ($schema['anyOf'] ?? [] as $one) {
            $one = $this->resolved($one);
            if (in_array($one['type'] ?? '', ['number', 'integer'], true)) {
                return $this->value($name, array_diff_key($schema, ['anyOf' => 1]) + $one, $chance);
            }
        }
        if (($schema['type'] ?? '') === 'object' && ! isset($schema['x-kinds'])) {
            return $this->settings($schema, $chance);
        }
        if (! $this->chance($chance) || isset($schema['x-kinds'])) {
            return null;
        }

        return match (true) {
            isset($schema['enum']) => $schema['enum'][$this->below(count($schema['enum']))],
            ($schema['type'] ?? '') === 'boolean' => $this->chance(0.5),
            ($schema['type'] ?? '') === 'integer' => (int) round($this->number($name, $schema)),
            ($schema['type'] ?? '') === 'number' => $this->number($name, $schema),
            default => null,
        };
    }

    /** @param array<string, mixed> $schema */
    private function number(string $name, array $schema): float
    {
        $least = (float) ($schema['minimum'] ?? (($schema['exclusiveMinimum'] ?? -10.0) + 1e-3));
        $most = (float) ($schema['x-soft-maximum'] ?? $schema['maximum'] ?? 10.0);
        $usual = (float) ($schema['default'] ?? 0.0);
        $wide = 3.0 * max(1.0, abs($usual));
        $number = match (true) {
            $this->chance(0.12) => $this->chance(0.5) ? $least : $most,
            $usual !== 0.0 && $this->chance(0.55) => $usual * 2.0 ** $this->random->between(-2.0, 2.0),
            default => $this->random->between(max($least, -$wide), min($most, $wide)),
        };
        foreach (self::LIMITS as $names => $limit) {
            $number = preg_match("/{$names}/i", $name) === 1 ? min($limit, $number) : $number;
        }

        return max($least, min($most, $number));
    }

    private function chance(float $share): bool
    {
        return $this->random->between(0.0, 1.0) < $share;
    }

    private function below(int $count): int
    {
        return min($count - 1, (int) floor($this->random->between(0.0, 1.0) * $count));
    }
}

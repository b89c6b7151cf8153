<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Math\Quaternion;

/**
 * The nodes of a glTF document's default scene: where each stands, at rest and as its animations move it (glTF 2.0, 3.5 and 3.11).
 * One of its animations plays, or all of them together; where two move the same thing, the first does.
 *
 * A matrix is sixteen numbers, column by column.
 *
 * @phpstan-type Matrix array<int, float>
 */
final class GlbNodes
{
    /** Letters of a name. */
    private const NAME = 60;

    private const IDENTITY = [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0];

    /** @var array<int, int> by node the one it hangs on, -1: none; each after that one */
    private array $parents = [];

    /** @var array<int, array<mixed>> */
    private array $nodes = [];

    /** @var array<string, GlbChannel>|null by node and what of it they move: `3 rotation`; null: nobody has asked yet */
    private ?array $channels = null;

    /**
     * @param string $clip the animation that plays, by its name among {@see clips()}; '': all of them
     *
     * @throws BadFile
     */
    public function __construct(private readonly GlbFile $file, private readonly string $clip = '')
    {
        $scene = $file->all('scenes')[GlbFile::int($file->json, 'scene', 0)] ?? null;
        $roots = is_array($scene) ? ($scene['nodes'] ?? []) : array_keys($file->all('nodes'));
        foreach (is_array($roots) ? $roots : [] as $root) {
            $this->add(is_int($root) ? $root : -1, -1, 0);
        }
    }

    /** @return list<string> names of the animations, each its own */
    public function clips(): array
    {
        $names = [];
        foreach (array_values($this->file->all('animations')) as $k => $animation) {
            $name = mb_substr(trim(mb_scrub(GlbFile::text(is_array($animation) ? $animation : [], 'name'))), 0, self::NAME);
            $name = $own = $name === '' ? 'animation ' . ($k + 1) : $name;
            for ($n = 2; in_array($own, $names, true); $n++) {
                $own = "{$name} ({$n})";
            }
            $names[] = $own;
        }

        return $names;
    }

    /**
     * @return array<mixed> those that play
     *
     * @throws BadFile
     */
    private function playing(): array
    {
        $all = array_values($this->file->all('animations'));
        if ($this->clip === '') {
            return $all;
        }
        $names = $this->clips();
        $which = array_search($this->clip, $names, true);

        return $which === false
            ? throw new BadFile("The file has no animation “{$this->clip}”. " . ($names === [] ? 'It has none at all.' : 'It has ' . implode(', ', array_map(static fn (string $name): string => "“{$name}”", array_slice($names, 0, 12))) . '.'))
            : [$all[$which]];
    }

    /**
     * Read when they are asked for: who wants a mesh at rest need not mind what is wrong with how it moves.
     *
     * @return array<string, GlbChannel>
     *
     * @throws BadFile
     */
    private function channels(): array
    {
        if ($this->channels === null) {
            $channels = [];
            foreach ($this->playing() as $animation) {
                foreach (is_array($animation) ? GlbFile::list($animation, 'channels') : [] as $channel) {
                    if (is_array($animation) && is_array($channel)) {
                        $channels += $this->moved($animation, $channel);
                    }
                }
            }
            $this->channels = $channels;
        }

        return $this->channels;
    }

    /** When the first of its keys is, s; without any 0. */
    public function begins(): float
    {
        $channels = array_values($this->channels());

        return $channels === [] ? 0.0 : min(array_map(static fn (GlbChannel $channel): float => $channel->begins(), $channels));
    }

    /** When the last one is, s. */
    public function ends(): float
    {
        $channels = array_values($this->channels());

        return $channels === [] ? 0.0 : max(array_map(static fn (GlbChannel $channel): float => $channel->ends(), $channels));
    }

    private function add(int $index, int $parent, int $depth): void
    {
        $node = $this->file->all('nodes')[$index] ?? null;
        if (! is_array($node) || $depth > 64) {
            throw new BadFile("The scene refers to node {$index}, which does not exist or is nested too deep.");
        }
        if (isset($this->parents[$index])) {
            // Nodes are strict trees (glTF 2.0, 3.5.2); else a small file could ask for a billion meshes.
            throw new BadFile("Node {$index} is placed twice in the scene; glTF allows it once. Export the scene again.");
        }
        $this->parents[$index] = $parent;
        $this->nodes[$index] = $node;
        foreach (GlbFile::list($node, 'children') as $child) {
            $this->add(is_int($child) ? $child : -1, $index, $depth + 1);
        }
    }

    /**
     * @param array<mixed> $animation
     * @param array<mixed> $channel
     *
     * @return array<string, GlbChannel> at most one
     */
    private function moved(array $animation, array $channel): array
    {
        $target = GlbFile::list($channel, 'target');
        $path = GlbFile::text($target, 'path');
        $node = GlbFile::int($target, 'node', -1);
        $width = GlbChannel::WIDTHS[$path] ?? null;
        if (! isset($this->nodes[$node]) || ($width === null && $path !== 'weights')) {
            return [];
        }
        $width ??= $this->targetCount($node);

        return $width === 0 ? [] : ["{$node} {$path}" => GlbChannel::read($this->file, GlbFile::list(GlbFile::list($animation, 'samplers'), GlbFile::int($channel, 'sampler', -1)), $width, $path === 'rotation')];
    }

    private function targetCount(int $node): int
    {
        $primitive = GlbFile::list(GlbFile::list($this->file->entry('meshes', GlbFile::int($this->nodes[$node], 'mesh', -1)), 'primitives'), 0);

        return count(GlbFile::list($primitive, 'targets'));
    }

    /** @return array<int, array<mixed>> by number, each after the one it hangs on */
    public function all(): array
    {
        return $this->nodes;
    }

    public function name(int $node): string
    {
        $name = mb_scrub(GlbFile::text($this->nodes[$node] ?? [], 'name'));

        return $name === '' ? 'node ' . ($node + 1) : mb_substr($name, 0, self::NAME);
    }

    /** Whether anything moves a node itself, or what it hangs on. */
    public function moves(int $node): bool
    {
        for (; $node >= 0; $node = $this->parents[$node]) {
            foreach (array_keys(GlbChannel::WIDTHS) as $path) {
                if (isset($this->channels()["{$node} {$path}"])) {
                    return true;
                }
            }
        }

        return false;
    }

    /** Whether the shape of its mesh is moved by weights. */
    public function bends(int $node): bool
    {
        return isset($this->channels()["{$node} weights"]);
    }

    /**
     * @param float|null $seconds null: at rest
     *
     * @return array<int, Matrix> by node
     */
    public function places(?float $seconds): array
    {
        $places = [];
        foreach ($this->nodes as $index => $node) {
            $own = $this->local($index, $node, $seconds);
            $places[$index] = $this->parents[$index] < 0 ? $own : self::multiply($places[$this->parents[$index]], $own);
        }

        return $places;
    }

    /**
     * How far each target of a node's mesh has come.
     *
     * @param float|null $seconds null: at rest
     *
     * @return list<float>
     */
    public function weights(int $node, ?float $seconds): array
    {
        $count = $this->targetCount($node);
        $channel = $seconds === null ? null : $this->channels()["{$node} weights"] ?? null;
        if ($seconds !== null && $channel !== null) {
            return $channel->at($seconds);
        }
        $mesh = $this->file->entry('meshes', GlbFile::int($this->nodes[$node], 'mesh', -1));

        return array_values(GlbFile::numbers($this->nodes[$node], 'weights', $count) ?? GlbFile::numbers($mesh, 'weights', $count) ?? array_fill(0, $count, 0.0));
    }

    /**
     * @param array<mixed> $node
     *
     * @return Matrix
     */
    private function local(int $index, array $node, ?float $seconds): array
    {
        $matrix = GlbFile::numbers($node, 'matrix', 16);
        if ($matrix !== null) {
            return $matrix;
        }
        $t = $this->told($index, $node, 'translation', $seconds) ?? [0.0, 0.0, 0.0];
        $r = $this->told($index, $node, 'rotation', $seconds) ?? Quaternion::IDENTITY;
        $s = $this->told($index, $node, 'scale', $seconds) ?? [1.0, 1.0, 1.0];
        $m = Quaternion::matrix([$r[0], $r[1], $r[2], $r[3]]);

        return [
            $m[0] * $s[0], $m[3] * $s[0], $m[6] * $s[0], 0.0,
            $m[1] * $s[1], $m[4] * $s[1], $m[7] * $s[1], 0.0,
            $m[2] * $s[2], $m[5] * $s[2], $m[8] * $s[2], 0.0,
            $t[0], $t[1], $t[2], 1.0,
        ];
    }

    /**
     * @param array<mixed> $node
     *
     * @return array<int, float>|null null: neither it nor an animation says anything
     */
    private function told(int $index, array $node, string $path, ?float $seconds): ?array
    {
        $channel = $seconds === null ? null : $this->channels()["{$index} {$path}"] ?? null;

        return $seconds === null || $channel === null ? GlbFile::numbers($node, $path, GlbChannel::WIDTHS[$path]) : $channel->at($seconds);
    }

    /**
     * @param Matrix $a
     * @param Matrix $b
     *
     * @return Matrix
     */
    public static function multiply(array $a, array $b): array
    {
        $m = [];
        for ($c = 0; $c < 4; $c++) {
            for ($r = 0; $r < 4; $r++) {
                $m[] = $a[$r] * $b[4 * $c] + $a[4 + $r] * $b[4 * $c + 1] + $a[8 + $r] * $b[4 * $c + 2] + $a[12 + $r] * $b[4 * $c + 3];
            }
        }

        return $m;
    }

    /**
     * @param array<int, float> $m
     *
     * @return Matrix|null null: it has lost an extent, and cannot be undone
     */
    public static function inverse(array $m): ?array
    {
        $cross = static fn (int $a, int $b): array => [$m[$a + 1] * $m[$b + 2] - $m[$a + 2] * $m[$b + 1], $m[$a + 2] * $m[$b] - $m[$a] * $m[$b + 2], $m[$a] * $m[$b + 1] - $m[$a + 1] * $m[$b]];
        [$x, $y, $z] = [$cross(4, 8), $cross(8, 0), $cross(0, 4)];
        $volume = $m[0] * $x[0] + $m[1] * $x[1] + $m[2] * $x[2];
        if (abs($volume) < 1e-30) {
            return null;
        }
        $inverse = self::IDENTITY;
        foreach ([$x, $y, $z] as $row => $of) {
            foreach ($of as $column => $value) {
                $inverse[4 * $column + $row] = $value / $volume;
            }
            $inverse[12 + $row] = -($of[0] * $m[12] + $of[1] * $m[13] + $of[2] * $m[14]) / $volume;
        }

        return $inverse;
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Outwards;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Makes flakes of patches of a surface: lifted off it along its normals, and given thickness.
 */
final class SkinBuilder
{
    /** A flake with less than this part of its area times its thickness is folded over. */
    private const FOLDED = 0.3;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} direction outwards at each vertex of the mesh */
    private readonly array $out;

    public function __construct(private readonly TriangleMesh $mesh, private readonly float $lift, private readonly float $thickness)
    {
        $this->out = Outwards::of($mesh);
    }

    /**
     * Patches that hang together, in groups.
     *
     * @param list<Patch> $patches
     *
     * @return list<list<Patch>>
     */
    public static function connected(array $patches): array
    {
        if (count($patches) < 2) {
            return [$patches];
        }
        $parent = array_keys($patches);
        $by = $id = [];
        $most = 0;
        foreach ($patches as $patch) {
            $most += count($patch->names);
        }
        foreach ($patches as $k => $patch) {
            $last = count($patch->names) - 1;
            $a = $id[$patch->names[$last]] ??= count($id);
            foreach ($patch->names as $name) {
                // By edges: patches that touch in one point only are apart.
                $b = $id[$name] ??= count($id);
                $other = $by[$a < $b ? $a * $most + $b : $b * $most + $a] ??= $k;
                $next = $b;
                $a = $k;
                while ($parent[$a] !== $a) {
                    $a = $parent[$a] = $parent[$parent[$a]];
                }
                while ($parent[$other] !== $other) {
                    $other = $parent[$other] = $parent[$parent[$other]];
                }
                if ($a < $other) {
                    $parent[$other] = $a;
                } else {
                    $parent[$a] = $other;
                }
                $a = $next;
            }
        }
        $parts = [];
        foreach ($patches as $k => $patch) {
            while ($parent[$k] !== $k) {
                $k = $parent[$k];
            }
            $parts[$k][] = $patch;
        }

        return array_values($parts);
    }

    /**
     * @param list<Patch> $patches that hang together
     * @param array{float, float, float}|null $way direction outwards, of length 1; null: the surface's own at each corner
     */
    public function flake(array $patches, ?array $way = null): TriangleMesh
    {
        $flake = new FlakeMesh($this->mesh, $this->out, $this->lift, $this->thickness, $way);
        foreach ($patches as $patch) {
            $flake->add($patch);
        }
        if ($this->thickness <= 0.0) {
            return $flake->mesh();
        }
        if ($flake->isPinched()) {
            return $this->flake(self::fanned($patches), $way);
        }
        $flake->close();
        $mesh = $flake->mesh();
        [$x, $y, $z] = $flake->facing();
        $area = sqrt($x * $x + $y * $y + $z * $z);
        if ($way === null && $area > 0.0 && MassProperties::of($mesh)->volume < self::FOLDED * 0.5 * $area * $this->thickness) {
            // In a hollow corner the surface's normals cross before the skin is as thick as asked: one way for the whole flake.
            return $this->flake($patches, [$x / $area, $y / $area, $z / $area]);
        }

        return Slivers::without($mesh);
    }

    /**
     * The same patches, with corners that only look alike told apart: those of patches that do not hang together about the
     * corner.
     *
     * @param list<Patch> $patches
     *
     * @return list<Patch>
     */
    private static function fanned(array $patches): array
    {
        $parent = $first = $edges = [];
        foreach ($patches as $p => $patch) {
            $first[$p] = count($parent);
            foreach ($patch->names as $_) {
                $parent[] = count($parent);
            }
        }
        $root = static function (int $c) use (&$parent): int {
            while ($parent[$c] !== $c) {
                $c = $parent[$c] = $parent[$parent[$c]];
            }

            return $c;
        };
        foreach ($patches as $p => $patch) {
            $count = count($patch->names);
            for ($i = 0; $i < $count; $i++) {
                $j = $i + 1 === $count ? 0 : $i + 1;
                [$a, $b] = [$patch->names[$i], $patch->names[$j]];
                if (isset($edges["{$b},{$a}"])) {
                    [$other, $next] = $edges["{$b},{$a}"];
                    $parent[$root($first[$p] + $i)] = $root($next);
                    $parent[$root($first[$p] + $j)] = $root($other);
                    unset($edges["{$b},{$a}"]);
                } else {
                    $edges["{$a},{$b}"] = [$first[$p] + $i, $first[$p] + $j];
                }
            }
        }
        $fanned = [];
        foreach ($patches as $p => $patch) {
            $names = [];
            foreach (array_keys($patch->names) as $i) {
                $names[] = $root($first[$p] + $i);
            }
            $fanned[] = new Patch($patch->triangle, $names, $patch->weights);
        }

        return $fanned;
    }
}

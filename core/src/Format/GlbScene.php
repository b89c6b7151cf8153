<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/**
 * All triangle meshes of a glTF document's default scene, in place, at rest or at a moment of its animations: carried by their nodes,
 * bent by their targets and skins (glTF 2.0, 3.7.2 and 3.7.3).
 *
 * @phpstan-import-type Matrix from GlbNodes
 */
final class GlbScene
{
    public readonly GlbNodes $nodes;

    /** @var list<array{node: int, primitive: array<mixed>}> that have triangles */
    public readonly array $parts;

    /** @var array<int, list<float>> by part, three numbers a vertex; read when they are asked for */
    private array $positions = [];

    /** Vertices that have been read. */
    private int $count = 0;

    /** @var array<int, array{list<array<int, float>>, list<int>}> by part: shares of the joints, and which of those each vertex has */
    private array $shares = [];

    /** @var array<int, array<int, list<float>>> by part and target: how far each vertex goes with it */
    private array $ways = [];

    /** @var array<int, list<Matrix>|null> by skin: what undoes how its joints stood when it was bound; null: nothing does */
    private array $undo = [];

    /** @throws BadFile */
    private function __construct(public readonly GlbFile $file, string $clip)
    {
        $this->nodes = new GlbNodes($file, $clip);
        $parts = [];
        foreach ($this->nodes->all() as $index => $node) {
            foreach (isset($node['mesh']) ? GlbFile::list($file->entry('meshes', GlbFile::int($node, 'mesh', -1)), 'primitives') : [] as $primitive) {
                if (is_array($primitive) && GlbFile::int($primitive, 'mode', 4) === 4) {
                    $parts[] = ['node' => $index, 'primitive' => $primitive];
                }
            }
        }
        $this->parts = $parts;
    }

    /**
     * @param string $clip the animation that plays; '': all of them
     *
     * @throws BadFile
     */
    public static function open(string $data, string $clip = ''): self
    {
        return new self(GlbFile::open($data), $clip);
    }

    /** @return list<float> three numbers a vertex of a part, as the file has them */
    private function positions(int $part): array
    {
        if (! isset($this->positions[$part])) {
            $this->positions[$part] = $this->file->accessor(GlbFile::int(GlbFile::list($this->parts[$part]['primitive'], 'attributes'), 'POSITION', -1), 3);
            $this->count += intdiv(count($this->positions[$part]), 3);
            Limits::vertices($this->count);
        }

        return $this->positions[$part];
    }

    /** Whether anything that has triangles moves. */
    public function moves(): bool
    {
        foreach ($this->parts as ['node' => $node]) {
            if ($this->nodes->moves($node) || $this->bends($node)) {
                return true;
            }
        }

        return false;
    }

    /** Whether a node's mesh changes its shape. */
    public function bends(int $node): bool
    {
        if ($this->nodes->bends($node)) {
            return true;
        }
        foreach ($this->joints($node) as $joint) {
            if (is_int($joint) && isset($this->nodes->all()[$joint]) && $this->nodes->moves($joint)) {
                return true;
            }
        }

        return false;
    }

    /** @return array<mixed> nodes that a node's mesh hangs on */
    private function joints(int $node): array
    {
        return GlbFile::list($this->skin($node), 'joints');
    }

    /** @return array<mixed> */
    private function skin(int $node): array
    {
        return $this->file->entry('skins', GlbFile::int($this->nodes->all()[$node], 'skin', -1));
    }

    /**
     * Where the vertices of a part are.
     *
     * @param int $part number of it
     * @param array<int, Matrix> $places of the nodes
     * @param float|null $seconds null: at rest
     *
     * @return array{list<float>, list<Matrix>, list<int>} three numbers a vertex; what carries them; by which of that each is carried
     *
     * @throws BadFile
     */
    public function placed(int $part, array $places, ?float $seconds): array
    {
        ['node' => $node, 'primitive' => $primitive] = $this->parts[$part];
        $positions = $this->bent($part, $this->positions($part), $primitive, $node, $seconds);
        [$carriers, $by] = $this->joints($node) === [] ? [[$places[$node]], array_fill(0, intdiv(count($positions), 3), 0)] : $this->skinned($part, $places);
        $out = [];
        foreach ($by as $v => $carrier) {
            $m = $carriers[$carrier];
            [$x, $y, $z] = [$positions[3 * $v], $positions[3 * $v + 1], $positions[3 * $v + 2]];
            $out[] = $px = $m[0] * $x + $m[4] * $y + $m[8] * $z + $m[12];
            $out[] = $py = $m[1] * $x + $m[5] * $y + $m[9] * $z + $m[13];
            $out[] = $pz = $m[2] * $x + $m[6] * $y + $m[10] * $z + $m[14];
            if (! Limits::isCoordinate($px) || ! Limits::isCoordinate($py) || ! Limits::isCoordinate($pz)) {
                throw new BadFile('Vertex ' . ($v + 1) . ' has no usable coordinates. Export the mesh again.');
            }
        }

        return [$out, $carriers, $by];
    }

    /**
     * @param list<float> $positions
     * @param array<mixed> $primitive
     *
     * @return list<float>
     */
    private function bent(int $part, array $positions, array $primitive, int $node, ?float $seconds): array
    {
        $targets = GlbFile::list($primitive, 'targets');
        foreach ($targets === [] ? [] : $this->nodes->weights($node, $seconds) as $k => $weight) {
            $target = GlbFile::list($targets, $k);
            if ($weight === 0.0 || ! isset($target['POSITION'])) {
                continue;
            }
            $ways = $this->ways[$part][$k] ??= $this->file->accessor(GlbFile::int($target, 'POSITION', -1), 3);
            if (count($ways) !== count($positions)) {
                throw new BadFile('Target ' . ($k + 1) . ' of a mesh has not as many vertices as the mesh. Export the scene again.');
            }
            foreach ($ways as $n => $way) {
                $positions[$n] += $weight * $way;
            }
        }

        return array_values($positions);
    }

    /**
     * What a skin carries its vertices by; those that are carried alike share it.
     *
     * @param array<int, Matrix> $places
     *
     * @return array{list<Matrix>, list<int>}
     */
    private function skinned(int $part, array $places): array
    {
        $node = $this->parts[$part]['node'];
        $skin = $this->skin($node);
        $undo = $this->undo[GlbFile::int($this->nodes->all()[$node], 'skin', -1)] ??= isset($skin['inverseBindMatrices']) ? array_chunk($this->file->accessor(GlbFile::int($skin, 'inverseBindMatrices', -1), 16), 16) : null;
        $joints = [];
        foreach (array_values($this->joints($node)) as $k => $joint) {
            $place = is_int($joint) ? $places[$joint] ?? null : null;
            if ($place === null || ($undo !== null && ! isset($undo[$k]))) {
                throw new BadFile('A skin hangs on a node that is not in the scene. Export the scene again.');
            }
            $joints[] = $undo === null ? $place : GlbNodes::multiply($place, $undo[$k]);
        }
        [$shares, $by] = $this->shares[$part] ??= $this->sharesOf($part);

        return [array_map(static fn (array $of): array => self::blend($of, $joints, $places[$node]), $shares), $by];
    }

    /** @return array{list<array<int, float>>, list<int>} */
    private function sharesOf(int $part): array
    {
        $count = intdiv(count($this->positions($part)), 3);
        $attributes = GlbFile::list($this->parts[$part]['primitive'], 'attributes');
        $sets = [];
        for ($n = 0; isset($attributes["JOINTS_{$n}"], $attributes["WEIGHTS_{$n}"]); $n++) {
            $sets[] = $set = [$this->file->accessor(GlbFile::int($attributes, "JOINTS_{$n}", -1), 4), $this->file->accessor(GlbFile::int($attributes, "WEIGHTS_{$n}", -1), 4)];
            if (count($set[0]) !== 4 * $count || count($set[1]) !== 4 * $count) {
                throw new BadFile("There are {$count} vertices, but not as many weights of their skin. Export the mesh again.");
            }
        }
        $all = $known = $by = [];
        for ($v = 0; $v < $count; $v++) {
            $shares = [];
            foreach ($sets as [$of, $weights]) {
                for ($k = 4 * $v; $k < 4 * $v + 4; $k++) {
                    if ($weights[$k] > 0.0) {
                        $joint = (int) $of[$k];
                        $shares[$joint] = ($shares[$joint] ?? 0.0) + $weights[$k];
                    }
                }
            }
            $key = serialize($shares);
            if (! isset($known[$key])) {
                $known[$key] = count($all);
                $all[] = $shares;
            }
            $by[] = $known[$key];
        }

        return [$all, $by];
    }

    /**
     * @param array<int, float> $shares of joints
     * @param list<Matrix> $joints
     * @param Matrix $else what carries a vertex that hangs on none
     *
     * @return Matrix
     */
    private static function blend(array $shares, array $joints, array $else): array
    {
        $sum = array_sum($shares);
        if ($sum <= 0.0) {
            return $else;
        }
        $matrix = array_fill(0, 16, 0.0);
        foreach ($shares as $joint => $share) {
            $of = $joints[$joint] ?? throw new BadFile("A vertex hangs on joint {$joint} of its skin, which does not exist. Export the mesh again.");
            foreach ($of as $k => $value) {
                $matrix[$k] += $share / $sum * $value;
            }
        }

        return $matrix;
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Broken;
use YardBreak\Core\Break\Copies;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** A prop's pieces in its own space, as the break stage left them. A whole prop is one piece. */
final readonly class BrokenProp
{
    /** Flakes without thickness weigh as if they were as thick as card, m. */
    private const SHEET = 0.0005;

    /** Numbers kept of a piece besides its mesh: mass properties and sizes. */
    private const FACTS = 13;

    /** Vertices that what is drawn finer may have. */
    private const DRAWN = 250_000;

    /**
     * @param string $hash of everything the pieces were made from
     * @param list<MassProperties> $mass of each piece
     * @param list<array{float, float, float}> $sizes of each piece's bounds, m
     * @param array{array{float, float, float}, array{float, float, float}} $bounds of the whole
     * @param list<array{int, int, float}> $touching pieces that touch, the lower number first, and the area they share, m2
     * @param int $joined slivers that were joined to a neighbour
     * @param float $discarded volume taken away (joints), m3
     * @param list<string> $notes what an artist should know of the break, in words
     * @param bool $hasCore whether the first piece is a core that stays where it is
     * @param bool $sewn whether its pieces are one surface, side by side
     * @param int $finer how often its pieces have been made finer for drawing only
     */
    private function __construct(
        public string $hash,
        public PackedMeshes $pieces,
        public array $mass,
        public array $sizes,
        public array $bounds,
        public array $touching = [],
        public int $joined = 0,
        public float $discarded = 0.0,
        public array $notes = [],
        public bool $hasCore = false,
        public bool $sewn = false,
        public int $finer = 0,
    ) {
    }

    /**
     * The same, each triangle drawn as four, so many times; what is computed goes by {@see coarse()}.
     *
     * @throws BreakFailed if that would be too much
     */
    public function finer(int $times): self
    {
        $vertices = 0;
        $pieces = new PackedMeshes();
        foreach ($this->pieces as $piece) {
            for ($k = 0; $k < $times; $k++) {
                $piece = Subdivision::flat($piece);
            }
            $vertices += $piece->vertexCount();
            if ($vertices > self::DRAWN) {
                throw new BreakFailed('Drawn that smooth it would have more than ' . number_format(self::DRAWN) . ' vertices. Draw it smooth fewer times, or make its mesh of fewer triangles.');
            }
            $pieces->add($piece);
        }

        return $this->with($pieces, $times);
    }

    /** Its pieces as they are computed. */
    public function coarse(): self
    {
        if ($this->finer === 0) {
            return $this;
        }
        $pieces = new PackedMeshes();
        foreach ($this->pieces as $piece) {
            for ($k = 0; $k < $this->finer; $k++) {
                $piece = Subdivision::coarser($piece);
            }
            $pieces->add($piece);
        }

        return $this->with($pieces, 0);
    }

    private function with(PackedMeshes $pieces, int $finer): self
    {
        return new self($this->hash, $pieces, $this->mass, $this->sizes, $this->bounds, $this->touching, $this->joined, $this->discarded, $this->notes, $this->hasCore, $this->sewn, $finer);
    }

    public static function whole(string $hash, TriangleMesh $mesh): self
    {
        return new self($hash, PackedMeshes::of([$mesh]), [MassProperties::of($mesh)], [self::size($mesh)], $mesh->bounds());
    }

    /** @throws BreakFailed if that would be too much */
    public static function copies(string $hash, TriangleMesh $mesh, Copies $copies): self
    {
        $copies->limit($mesh);
        $pieces = new PackedMeshes();
        for ($k = 0; $k < $copies->count; $k++) {
            $pieces->add($mesh);
        }

        return new self($hash, $pieces, array_fill(0, $copies->count, MassProperties::of($mesh)), array_fill(0, $copies->count, self::size($mesh)), $mesh->bounds());
    }

    /** @param array{array{float, float, float}, array{float, float, float}} $bounds */
    public static function of(string $hash, Broken $broken, array $bounds): self
    {
        $pieces = new PackedMeshes();
        $mass = $sizes = $touching = [];
        foreach ($broken->pieces as $piece) {
            $pieces->add($piece->mesh);
            $mass[] = MassProperties::of($piece->mesh);
            $sizes[] = self::size($piece->mesh);
        }
        foreach ($broken->shared as $a => $areas) {
            ksort($areas);
            foreach ($areas as $b => $area) {
                if ($a < $b) {
                    $touching[] = [$a, $b, $area];
                }
            }
        }

        return new self($hash, $pieces, $mass, $sizes, $bounds, $touching, $broken->joined, $broken->discarded, $broken->notes);
    }

    /**
     * Flakes over a core that stays whole; taken one at a time, since there may be very many.
     *
     * @param iterable<TriangleMesh> $flakes all solid, or all sheets
     * @param bool $hasCore whether the core is a piece
     * @param bool $sewn whether they are one surface, side by side
     */
    public static function skin(string $hash, TriangleMesh $core, iterable $flakes, bool $hasCore = true, bool $sewn = false): self
    {
        $pieces = PackedMeshes::of($hasCore ? [$core] : []);
        $mass = $hasCore ? [MassProperties::of($core)] : [];
        $sizes = $hasCore ? [self::size($core)] : [];
        $thin = null;
        foreach ($flakes as $flake) {
            $thin ??= ! Topology::of($flake)->isWatertight();
            $pieces->add($flake);
            $mass[] = $thin ? MassProperties::ofSheet($flake, self::SHEET) : MassProperties::of($flake);
            $sizes[] = self::size($flake);
        }

        return new self($hash, $pieces, $mass, $sizes, $core->bounds(), hasCore: $hasCore, sewn: $sewn);
    }

    /** @return array{float, float, float} */
    private static function size(TriangleMesh $mesh): array
    {
        [$low, $high] = $mesh->bounds();

        return [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]];
    }

    /**
     * The facts in a row, then the meshes.
     *
     * @return list<string> together they are what decode() takes
     */
    public function encode(): array
    {
        $words = json_encode(['notes' => $this->notes, 'core' => $this->hasCore, ...$this->sewn ? ['sewn' => true] : [], ...$this->finer > 0 ? ['finer' => $this->finer] : []], JSON_THROW_ON_ERROR);
        $facts = pack('V4e', count($this->pieces), count($this->touching), $this->joined, strlen($words), $this->discarded) . pack('e6', ...$this->bounds[0], ...$this->bounds[1]) . $words;
        foreach ($this->mass as $k => $mass) {
            $facts .= pack('e' . self::FACTS, $mass->volume, ...$mass->centre, ...$mass->inertia, ...$this->sizes[$k]);
        }
        foreach ($this->touching as [$a, $b, $area]) {
            $facts .= pack('V2e', $a, $b, $area);
        }

        return [$facts, ...$this->pieces->parts()];
    }

    public static function decode(string $hash, string $bytes): self
    {
        /** @var array{pieces: int, pairs: int, joined: int, words: int, discarded: float} $head */
        $head = unpack('Vpieces/Vpairs/Vjoined/Vwords/ediscarded', $bytes);
        /** @var array{1: float, 2: float, 3: float, 4: float, 5: float, 6: float} $b */
        $b = unpack('e6', $bytes, 24);
        $bounds = [[$b[1], $b[2], $b[3]], [$b[4], $b[5], $b[6]]];
        /** @var array{notes: list<string>, core: bool, sewn?: true, finer?: int} $words */
        $words = json_decode(substr($bytes, 72, $head['words']), true, 4, JSON_THROW_ON_ERROR);
        $at = 72 + $head['words'];
        $mass = $sizes = $touching = [];
        for ($k = 0; $k < $head['pieces']; $k++, $at += 8 * self::FACTS) {
            /** @var array<int, float> $f */
            $f = unpack('e' . self::FACTS, $bytes, $at);
            $mass[] = new MassProperties($f[1], [$f[2], $f[3], $f[4]], [$f[5], $f[6], $f[7], $f[8], $f[9], $f[10]]);
            $sizes[] = [$f[11], $f[12], $f[13]];
        }
        for ($k = 0; $k < $head['pairs']; $k++, $at += 16) {
            /** @var array{a: int, b: int, area: float} $pair */
            $pair = unpack('Va/Vb/earea', $bytes, $at);
            $touching[] = [$pair['a'], $pair['b'], $pair['area']];
        }

        return new self($hash, PackedMeshes::read($bytes, $at, $head['pieces']), $mass, $sizes, $bounds, $touching, $head['joined'], $head['discarded'], $words['notes'], $words['core'], isset($words['sewn']), $words['finer'] ?? 0);
    }

    /** All pieces as one mesh; what is sewn hangs together in it. */
    public function together(): TriangleMesh
    {
        $mesh = TriangleMesh::together($this->pieces);

        return $this->sewn ? $mesh->joined() : $mesh;
    }

    /** The surface of all pieces together, without the faces that the break laid open. */
    public function outside(): TriangleMesh
    {
        $parts = [];
        foreach ($this->pieces as $mesh) {
            if ($this->hasCore) {
                return $mesh;
            }
            $parts[] = $mesh->picked(array_keys(array_filter(
                range(0, $mesh->triangleCount() - 1),
                static fn (int $t): bool => in_array($mesh->looks[$t] ?? TriangleMesh::LOOK_OUTER, [TriangleMesh::LOOK_OUTER, TriangleMesh::LOOK_SIDE], true),
            )));
        }

        return TriangleMesh::together($parts);
    }

    /** Whether its outside has an inside: no open sheet. */
    public function isSolid(): bool
    {
        return $this->hasCore ? $this->mass[0]->volume > 0.0 : array_sum(array_map(static fn (MassProperties $mass): float => $mass->volume, $this->mass)) > 0.0;
    }

    /** @return array{float, float, float} the point a piece is placed and turned about: its centre of mass, or of its bounds if it has no volume */
    public function centre(int $piece): array
    {
        return $this->mass[$piece]->centre;
    }
}

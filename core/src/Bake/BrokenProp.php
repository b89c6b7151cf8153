<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Broken;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** A prop's pieces in its own space, as the break stage left them. A whole prop is one piece. */
final readonly class BrokenProp
{
    /** Flakes without thickness weigh as if they were as thick as card, m. */
    private const SHEET = 0.0005;

    /** @var list<MassProperties> */
    public array $mass;

    /**
     * @param string $hash of everything the pieces were made from
     * @param list<TriangleMesh> $pieces
     * @param array{array{float, float, float}, array{float, float, float}} $bounds of the whole
     * @param list<array{int, int, float}> $touching pieces that touch, the lower number first, and the area they share, m2
     * @param int $joined slivers that were joined to a neighbour
     * @param float $discarded volume taken away (joints), m3
     * @param list<string> $notes what an artist should know of the break, in words
     * @param bool $hasCore whether the first piece is a core that stays where it is
     */
    public function __construct(
        public string $hash,
        public array $pieces,
        public array $bounds,
        public array $touching = [],
        public int $joined = 0,
        public float $discarded = 0.0,
        public array $notes = [],
        public bool $hasCore = false,
    ) {
        $thin = $hasCore && isset($pieces[1]) && ! Topology::of($pieces[1])->isWatertight();
        $mass = [];
        foreach ($pieces as $k => $piece) {
            $mass[] = $thin && $k > 0 ? MassProperties::ofSheet($piece, self::SHEET) : MassProperties::of($piece);
        }
        $this->mass = $mass;
    }

    /** @param array{array{float, float, float}, array{float, float, float}} $bounds */
    public static function of(string $hash, Broken $broken, array $bounds): self
    {
        $touching = [];
        foreach ($broken->shared as $a => $areas) {
            ksort($areas);
            foreach ($areas as $b => $area) {
                if ($a < $b) {
                    $touching[] = [$a, $b, $area];
                }
            }
        }

        return new self($hash, array_map(static fn (Piece $piece): TriangleMesh => $piece->mesh, $broken->pieces), $bounds, $touching, $broken->joined, $broken->discarded, $broken->notes, $broken->hasCore);
    }

    /** The pieces' meshes, then what is known of them: pairs that touch, joined slivers, discarded volume, notes. */
    public function encode(): string
    {
        $meshes = MeshCodec::encode($this->pieces);
        $facts = pack('V2e', count($this->touching), $this->joined, $this->discarded);
        foreach ($this->touching as [$a, $b, $area]) {
            $facts .= pack('V2e', $a, $b, $area);
        }

        return pack('P', strlen($meshes)) . $meshes . $facts . json_encode(['notes' => $this->notes, 'core' => $this->hasCore], JSON_THROW_ON_ERROR);
    }

    /** @param array{array{float, float, float}, array{float, float, float}} $bounds */
    public static function decode(string $hash, string $bytes, array $bounds): self
    {
        /** @var array{1: int} $length */
        $length = unpack('P', $bytes);
        $at = 8 + $length[1];
        /** @var array{pairs: int, joined: int, discarded: float} $head */
        $head = unpack('Vpairs/Vjoined/ediscarded', $bytes, $at);
        $touching = [];
        for ($k = 0, $at += 16; $k < $head['pairs']; $k++, $at += 16) {
            /** @var array{a: int, b: int, area: float} $pair */
            $pair = unpack('Va/Vb/earea', $bytes, $at);
            $touching[] = [$pair['a'], $pair['b'], $pair['area']];
        }

        /** @var array{notes: list<string>, core: bool} $words */
        $words = json_decode(substr($bytes, $at), true, 4, JSON_THROW_ON_ERROR);

        return new self($hash, MeshCodec::decode(substr($bytes, 8, $length[1])), $bounds, $touching, $head['joined'], $head['discarded'], $words['notes'], $words['core']);
    }

    /** @return array{float, float, float} the point a piece is placed and turned about: its centre of mass, or of its bounds if it has no volume */
    public function centre(int $piece): array
    {
        return $this->mass[$piece]->centre;
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Weight\Samples;

/**
 * Where the weight of a prop is asked for so that each vertex of its pieces has one. Where pieces meet their vertices lie in the same
 * places: each is asked for once. For a glimpse vertices near each other share one.
 *
 * @implements Stage<Places>
 */
final class WeighedPlaces implements Stage
{
    /** Places of a glimpse at most. */
    private const FEW = 1500;

    /**
     * @param string $broken hash of the pieces
     * @param Closure(): BrokenProp $pieces
     */
    public function __construct(private readonly string $broken, private readonly Closure $pieces, private readonly bool $few)
    {
    }

    public function name(): string
    {
        return 'places';
    }

    public function version(): int
    {
        return 2;
    }

    public function inputs(): array
    {
        return [$this->broken, $this->few];
    }

    public function run(Progress $progress): Places
    {
        $mesh = TriangleMesh::together(($this->pieces)()->pieces);
        $places = self::shared($mesh, null);
        if (! $this->few) {
            return $places;
        }
        for ($apart = $mesh->size() / 64.0; count($places->at->x) > self::FEW; $apart *= 1.2) {
            $places = self::shared($mesh, $apart);
        }

        return $places;
    }

    /** @param float|null $apart vertices in the same cube of such a side share a place, m; null: those in the same place do */
    private static function shared(TriangleMesh $mesh, ?float $apart): Places
    {
        $known = $number = $x = $y = $z = [];
        foreach ($mesh->x as $v => $px) {
            $py = $mesh->y[$v];
            $pz = $mesh->z[$v];
            $name = $apart === null ? pack('e3', $px, $py, $pz) : (int) floor($px / $apart) . ' ' . (int) floor($py / $apart) . ' ' . (int) floor($pz / $apart);
            if (! isset($known[$name])) {
                $known[$name] = count($x);
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
            }
            $number[] = $known[$name];
        }

        return new Places(new Samples($x, $y, $z), $number);
    }

    public function encode(mixed $result): array
    {
        return [
            pack('V2', count($result->at->x), count($result->number)),
            MeshCodec::packed('e', $result->at->x), MeshCodec::packed('e', $result->at->y), MeshCodec::packed('e', $result->at->z), MeshCodec::packed('V', $result->number),
        ];
    }

    public function decode(string $bytes): Places
    {
        /** @var array{places: int, vertices: int} $head */
        $head = unpack('Vplaces/Vvertices', $bytes);
        $n = $head['places'];
        $axes = [];
        for ($axis = 0; $axis < 3; $axis++) {
            /** @var array<int, float> $values */
            $values = $n === 0 ? [] : unpack("e{$n}", $bytes, 8 + 8 * $n * $axis);
            $axes[] = array_values($values);
        }
        /** @var array<int, int> $number */
        $number = $head['vertices'] === 0 ? [] : unpack("V{$head['vertices']}", $bytes, 8 + 24 * $n);

        return new Places(new Samples(...$axes), array_values($number));
    }
}

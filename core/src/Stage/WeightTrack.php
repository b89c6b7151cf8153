<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Weight\Samples;

/**
 * A weight at every vertex of a prop's pieces for some frames on end: one byte each, frame after frame. What decides it at
 * these frames is its input, so that an edit which acts elsewhere leaves it.
 *
 * @implements Stage<string>
 */
final class WeightTrack implements Stage
{
    /** Frames that are computed and kept together. */
    public const BLOCK = 16;

    /**
     * @param string $of "release": the weight by which it lets go; "hold": how far it is held while it has not
     * @param int|null $layer number of a source to be seen alone; null: all of them mixed
     * @param string $broken hash of the pieces
     * @param Closure(): BrokenProp $pieces
     * @param Surfaces $others what weights see of other props
     */
    public function __construct(
        private readonly Prop $prop,
        private readonly string $of,
        private readonly ?int $layer,
        private readonly int $first,
        private readonly int $count,
        private readonly string $broken,
        private readonly Closure $pieces,
        private readonly Surfaces $others,
    ) {
    }

    public function name(): string
    {
        return 'weight';
    }

    public function version(): int
    {
        return 1;
    }

    public function inputs(): array
    {
        return [$this->broken, $this->of, Weighing::inputsOf($this->stack(), $this->prop, $this->others), $this->first, $this->count];
    }

    /** @return list<Settings> */
    private function stack(): array
    {
        $stack = $this->of === 'hold' ? $this->prop->held() : $this->prop->stack;

        return $this->layer === null ? $stack : array_slice($stack, $this->layer, 1);
    }

    public function run(Progress $progress): string
    {
        $broken = ($this->pieces)();
        $mesh = TriangleMesh::together($broken->pieces);
        [$at, $number] = self::distinct($mesh);
        $shape = PropShape::ofPieces($broken, $this->others);
        $weight = $this->of === 'hold' && $this->layer === null ? Weighing::held($this->prop, $shape) : Weighing::mixed($this->stack(), $this->prop, $shape);
        $bytes = '';
        for ($n = 0; $n < $this->count; $n++) {
            $values = [];
            foreach ($weight->evaluate($at, (float) ($this->first + $n)) as $value) {
                $values[] = chr((int) (255.0 * $value + 0.5));
            }
            foreach ($number as $k) {
                $bytes .= $values[$k];
            }
            $progress->at('Weighing', $n + 1, $this->count);
        }

        return $bytes;
    }

    /**
     * Where pieces meet their vertices lie in the same places: each is asked for once.
     *
     * @return array{Samples, list<int>} places, and the number of its place for each vertex
     */
    private static function distinct(TriangleMesh $mesh): array
    {
        $known = $number = $x = $y = $z = [];
        foreach ($mesh->x as $v => $px) {
            $name = pack('e3', $px, $mesh->y[$v], $mesh->z[$v]);
            if (! isset($known[$name])) {
                $known[$name] = count($x);
                $x[] = $px;
                $y[] = $mesh->y[$v];
                $z[] = $mesh->z[$v];
            }
            $number[] = $known[$name];
        }

        return [new Samples($x, $y, $z), $number];
    }

    public function encode(mixed $result): array
    {
        return [$result];
    }

    public function decode(string $bytes): string
    {
        return $bytes;
    }
}

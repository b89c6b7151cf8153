<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Mix;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Weight\Following;
use YardBreak\Core\Weight\Samples;

/**
 * A weight at every vertex of a prop's pieces for some frames on end: one byte each, frame after frame. What decides it at
 * these frames is its input, so that an edit which acts elsewhere leaves it. A weight that goes by what it was goes on from what
 * the block before remembers.
 *
 * @implements Stage<WeightBlock>
 */
final class WeightTrack implements Stage
{
    /** Frames that are computed and kept together. */
    public const BLOCK = 16;

    /**
     * @param string $of "release": the weight by which it lets go; "hold": how far it is held while it has not; or the id of a further one
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
        return 2;
    }

    public function inputs(): array
    {
        return [$this->broken, $this->of, Weighing::inputsOf($this->mix(), $this->prop, $this->others), $this->first, $this->count];
    }

    private function mix(): Mix
    {
        $mix = match ($this->of) {
            'release' => $this->prop->weight,
            'hold' => $this->prop->held(),
            default => $this->prop->weights[$this->of] ?? new Mix($this->of, '', []),
        };

        return $this->layer === null ? $mix : $mix->alone($this->layer);
    }

    public function run(Progress $progress): WeightBlock
    {
        $broken = ($this->pieces)();
        $mesh = TriangleMesh::together($broken->pieces);
        [$at, $number] = self::distinct($mesh);
        $shape = PropShape::ofPieces($broken, $this->others);
        $weight = $this->of === 'hold' && $this->layer === null ? Weighing::held($this->prop, $shape) : Weighing::made($this->mix(), $this->prop, $shape);
        $before = intdiv($this->first - 1, self::BLOCK) - 1;
        if ($weight instanceof Following && $before >= 0) {
            $weight->restore($at, $this->others->result($this->block($before))->memory);
        }
        $bytes = '';
        for ($n = 0; $n < $this->count; $n++) {
            $values = [];
            foreach ($weight->evaluate($at, (float) ($this->first + $n)) as $value) {
                // What springs may leave 0 to 1 for a while.
                $values[] = chr((int) (255.0 * ($value < 0.0 ? 0.0 : ($value > 1.0 ? 1.0 : $value)) + 0.5));
            }
            foreach ($number as $k) {
                $bytes .= $values[$k];
            }
            $progress->at('Weighing', $n + 1, $this->count);
        }

        return new WeightBlock($bytes, $weight instanceof Following ? $weight->saved($at) : '');
    }

    /** The frames of a block, counted from 0, of the same weight. */
    private function block(int $number): self
    {
        return new self($this->prop, $this->of, $this->layer, self::BLOCK * $number + 1, self::BLOCK, $this->broken, $this->pieces, $this->others);
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
        return [pack('V', strlen($result->bytes)), $result->bytes, $result->memory];
    }

    public function decode(string $bytes): WeightBlock
    {
        /** @var array{length: int} $head */
        $head = unpack('Vlength', $bytes);

        return new WeightBlock(substr($bytes, 4, $head['length']), substr($bytes, 4 + $head['length']));
    }
}

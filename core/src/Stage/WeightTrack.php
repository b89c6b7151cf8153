<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Mix;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Weight\Following;
use YardBreak\Core\Weight\WeightSource;

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
        return 3;
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
        $places = $this->others->result(new WeighedPlaces($this->broken, $this->pieces, false));
        $at = $places->at;
        $weight = $this->weight();
        $before = intdiv($this->first - 1, self::BLOCK) - 1;
        if ($weight instanceof Following && $before >= 0) {
            $weight->restore($at, $this->others->result($this->block($before))->memory);
        }
        $bytes = '';
        for ($n = 0; $n < $this->count; $n++) {
            $bytes .= $places->bytes($weight->evaluate($at, (float) ($this->first + $n)));
            $progress->at('Weighing', $n + 1, $this->count);
        }

        return new WeightBlock($bytes, $weight instanceof Following ? $weight->saved($at) : '');
    }

    /** Whether a glimpse needs no pieces made first. */
    public function isAtHand(): bool
    {
        return $this->others->isKept(new WeighedPlaces($this->broken, $this->pieces, true));
    }

    /** As the first of its frames is about, at few places: while something is dragged it must be there at once. */
    public function glimpse(): string
    {
        $places = $this->others->result(new WeighedPlaces($this->broken, $this->pieces, true));

        return $places->bytes($this->weight($this->first)->evaluate($places->at, (float) $this->first));
    }

    private function weight(?int $until = null): WeightSource
    {
        $shape = PropShape::later($this->pieces, $this->others, $until);

        return $this->of === 'hold' && $this->layer === null ? Weighing::held($this->prop, $shape) : Weighing::made($this->mix(), $this->prop, $shape);
    }

    /** The frames of a block, counted from 0, of the same weight. */
    private function block(int $number): self
    {
        return new self($this->prop, $this->of, $this->layer, self::BLOCK * $number + 1, self::BLOCK, $this->broken, $this->pieces, $this->others);
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

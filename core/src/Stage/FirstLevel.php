<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Weight\Samples;

/**
 * The first frame at which the weight by which a prop lets go has got so high, at some place or at all of them. Of a mesh with
 * very many vertices some are asked, evenly picked.
 *
 * @implements Stage<float|null>
 */
final class FirstLevel implements Stage
{
    use FoundFrame;

    /** So many weights are asked for over the whole shot, at most. */
    private const MOST = 400_000;

    private const LEAST_PLACES = 500;

    public function __construct(
        private readonly Prop $prop,
        private readonly int $frames,
        private readonly float $level,
        private readonly bool $everywhere,
        private readonly Surfaces $surfaces,
    ) {
    }

    public function name(): string
    {
        return 'first-level';
    }

    public function version(): int
    {
        return 1;
    }

    public function inputs(): array
    {
        return [$this->surfaces->hash($this->prop), Weighing::inputs($this->prop, $this->surfaces), $this->prop->transform->inputs(), $this->frames, $this->level, $this->everywhere, ...Weighing::goesByPieces($this->prop) ? [$this->surfaces->brokenHash($this->prop)] : []];
    }

    public function run(Progress $progress): ?float
    {
        $mesh = $this->surfaces->ownMesh($this->prop);
        $weight = Weighing::of($this->prop, PropShape::ofProp($this->prop, $mesh, $this->surfaces));
        $every = max(1, intdiv($mesh->vertexCount(), max(self::LEAST_PLACES, intdiv(self::MOST, $this->frames))));
        $places = [];
        for ($v = 0, $end = $mesh->vertexCount(); $v < $end; $v += $every) {
            $places[] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
        }
        $at = Samples::of($places);
        for ($frame = 1; $frame <= $this->frames; $frame++) {
            $values = $weight->evaluate($at, (float) $frame);
            if ($values !== [] && ($this->everywhere ? min($values) : max($values)) >= $this->level) {
                return (float) $frame;
            }
        }

        return null;
    }
}

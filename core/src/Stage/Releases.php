<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Stage\Kind\Kinds;

/**
 * How many pieces of a prop let go at each frame, as far as that is known before a bake: by its weight, at a frame or a cue.
 * What a touch lets go is not in it.
 *
 * @implements Stage<list<int>>
 */
final class Releases implements Stage
{
    /**
     * @param string $broken hash of the pieces
     * @param Closure(): BrokenProp $pieces
     * @param Surfaces $others what weights see of other props
     */
    public function __construct(private readonly Prop $prop, private readonly int $frames, private readonly string $broken, private readonly Closure $pieces, private readonly Surfaces $others)
    {
    }

    public function name(): string
    {
        return 'releases';
    }

    public function version(): int
    {
        return 1;
    }

    public function inputs(): array
    {
        return [
            $this->broken, $this->frames, Weighing::inputs($this->prop, $this->others), $this->prop->mover->has('vertices'),
            Kinds::trigger($this->prop->trigger->kind)::inputs($this->prop->trigger->settings), $this->prop->trigger->kind,
        ];
    }

    /** @return list<int> by frame, from the first */
    public function run(Progress $progress): array
    {
        $broken = ($this->pieces)();
        $timing = new PieceTiming($this->prop, $broken, $this->others);
        $held = array_keys($timing->weights(1.0));
        if ($broken->hasCore) {
            // The core never lets go: one piece, or of cloth its vertices.
            $held = array_slice($held, $this->prop->mover->has('vertices') ? $broken->pieces->mesh(0)->vertexCount() : 1);
        }
        $counts = [];
        for ($n = 1; $n <= $this->frames; $n++) {
            $due = $held === [] ? [] : $timing->due((float) $n, $held);
            $counts[] = count($due);
            $held = $due === [] ? $held : array_values(array_diff($held, $due));
            $progress->at('Weighing', $n, $this->frames);
        }

        return $counts;
    }

    public function encode(mixed $result): array
    {
        return [pack('V*', ...$result)];
    }

    public function decode(string $bytes): array
    {
        /** @var array<int, int> $counts */
        $counts = unpack('V*', $bytes);

        return array_values($counts);
    }
}

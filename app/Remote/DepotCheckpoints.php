<?php

declare(strict_types=1);

namespace App\Remote;

use Closure;
use YardBreak\Core\Bake\Checkpoints;

/** States of this machine, and of a bake the last one that a worker elsewhere has kept. */
final class DepotCheckpoints implements Checkpoints
{
    /** @var array{string, string}|null hash and packed state */
    private ?array $last = null;

    private bool $asked = false;

    /**
     * @param string $frames where the frames up to that state were fetched to
     * @param Closure(): void $send sends the frames up to now: a state without them is none
     */
    public function __construct(private readonly Checkpoints $own, private readonly Depot $depot, private readonly string $bake, private readonly string $frames, private readonly Closure $send)
    {
    }

    public function find(string $hash): ?array
    {
        if (! $this->asked) {
            $this->asked = true;
            $this->last = $this->depot->state($this->bake);
        }
        if ($this->last !== null && $this->last[0] === $hash) {
            $state = @gzuncompress($this->last[1]);
            if ($state !== false) {
                return [$state, $this->frames];
            }
        }

        return $this->own->find($hash);
    }

    public function keep(string $hash, string $state, string $path): void
    {
        $this->own->keep($hash, $state, $path);
        ($this->send)();
        $this->depot->keepState($this->bake, $hash, (string) gzcompress($state, 1));
    }
}

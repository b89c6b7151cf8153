<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** Where and when a prop's pieces let go; see the schema for each field. */
final readonly class Timing
{
    private function __construct(
        public string $release,
        public int $frame,
        public string $cue,
        public float $contactSpeed,
        public float $within,
        public string $axis,
        public bool $backwards,
        public int $from,
        public int $to,
        public float $spread,
        public float $softness,
        public float $threshold,
    ) {
    }

    /** @throws BadDocument */
    public static function read(Fields $fields): self
    {
        $release = $fields->string('release');
        $frame = $fields->int('frame');
        $cue = $fields->string('cue');
        if ($release === 'cue' && $cue !== '') {
            if (! isset($fields->cues[$cue])) {
                throw $fields->wrong('cue', "There is no cue “{$cue}”. Choose another, or add it on the cue strip.");
            }
            $frame = $fields->cues[$cue]['frame'];
        }
        if (in_array($release, ['sweep', 'blow'], true) && $fields->int('to') < $fields->int('from')) {
            throw $fields->wrong('to', 'The front must not end before it starts.' . ($release === 'sweep' ? ' To turn it around, use Backwards.' : ''));
        }

        return new self(
            $release,
            $frame,
            $cue,
            $fields->float('contactSpeed'),
            $fields->float('within'),
            $fields->string('axis'),
            $fields->bool('backwards'),
            $fields->int('from'),
            $fields->int('to'),
            $fields->float('spread'),
            $fields->float('softness'),
            $fields->float('threshold'),
        );
    }
}

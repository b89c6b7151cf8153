<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** Where the cracks run; see the schema for each field. */
final readonly class PatternSettings
{
    /**
     * @param list<array{list<array{float, float}>, bool}> $lines points and whether the line is closed
     * @param string $picture SHA-256 of an asset, or empty
     * @param array{float, float, float} $at m
     * @param list<array{float, float, float}> $places m
     * @param array{float, float, float} $axis
     */
    private function __construct(
        public string $pattern,
        public string $facing,
        public array $lines,
        public string $picture,
        public int $tones,
        public float $speck,
        public string $bond,
        public string $aligned,
        public int $pieces,
        public int $flakes,
        public int $cuts,
        public int $split,
        public float $thickness,
        public float $lift,
        public int $rounds,
        public int $count,
        public int $rays,
        public int $rings,
        public float $radius,
        public float $growth,
        public float $jitter,
        public string $rest,
        public float $length,
        public float $height,
        public float $depth,
        public float $offset,
        public float $joint,
        public float $slenderness,
        public float $raggedness,
        public string $shape,
        public string $splinters,
        public float $ragged,
        public float $crumb,
        public int $fragments,
        public int $bands,
        public float $band,
        public int $seed,
        public float $evenness,
        public float $variety,
        public float $wander,
        public float $jagged,
        public float $clustering,
        public float $reach,
        public string $density,
        public int $densityAt,
        public array $at,
        public array $places,
        public array $axis,
    ) {
    }

    public static function read(Fields $fields): self
    {
        return new self(
            $fields->string('pattern'),
            $fields->string('facing'),
            array_map(static fn (Fields $line): array => [$line->points('points'), $line->bool('closed')], $fields->list('lines')),
            $fields->at('picture')->string('asset'),
            $fields->int('tones'),
            $fields->float('speck'),
            $fields->string('bond'),
            $fields->string('aligned'),
            $fields->int('pieces'),
            $fields->int('flakes'),
            $fields->int('cuts'),
            $fields->int('split'),
            $fields->float('thickness'),
            $fields->float('lift'),
            $fields->int('rounds'),
            $fields->int('count'),
            $fields->int('rays'),
            $fields->int('rings'),
            $fields->float('radius'),
            $fields->float('growth'),
            $fields->float('jitter'),
            $fields->string('rest'),
            $fields->float('length'),
            $fields->float('height'),
            $fields->float('depth'),
            $fields->float('offset'),
            $fields->float('joint'),
            $fields->float('slenderness'),
            $fields->float('raggedness'),
            $fields->string('shape'),
            $fields->string('splinters'),
            $fields->float('ragged'),
            $fields->float('crumb'),
            $fields->int('fragments'),
            $fields->int('bands'),
            $fields->float('band'),
            $fields->int('seed'),
            $fields->float('evenness'),
            $fields->float('variety'),
            $fields->float('wander'),
            $fields->float('jagged'),
            $fields->float('clustering'),
            $fields->float('reach'),
            $fields->string('density'),
            $fields->int('densityAt'),
            $fields->at('at')->vector(),
            array_map(static fn (Fields $place): array => $place->vector(), $fields->list('places')),
            $fields->at('axis')->vector(),
        );
    }

    /** Whether there is a blow or an opening that a front can spread from. */
    public function hasBlow(): bool
    {
        return in_array($this->pattern, ['web', 'breach'], true) || ($this->pattern === 'cellular' && $this->clustering > 0.0);
    }
}

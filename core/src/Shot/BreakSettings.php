<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** How a prop comes apart; see the schema for each field. */
final readonly class BreakSettings
{
    /**
     * @param array{float, float, float} $at m
     * @param array{float, float, float} $axis
     * @param list<PieceEdit> $edits
     */
    private function __construct(
        public string $pattern,
        public string $bond,
        public int $pieces,
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
        public float $ragged,
        public float $crumb,
        public int $fragments,
        public int $bands,
        public float $band,
        public int $seed,
        public float $evenness,
        public float $variety,
        public float $wander,
        public float $clustering,
        public float $reach,
        public array $at,
        public array $axis,
        public float $roughness,
        public float $fineness,
        public float $smallest,
        public float $thinnest,
        public string $prefix,
        public array $edits,
    ) {
    }

    public static function read(Fields $fields): self
    {
        return new self(
            $fields->string('pattern'),
            $fields->string('bond'),
            $fields->int('pieces'),
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
            $fields->float('ragged'),
            $fields->float('crumb'),
            $fields->int('fragments'),
            $fields->int('bands'),
            $fields->float('band'),
            $fields->int('seed'),
            $fields->float('evenness'),
            $fields->float('variety'),
            $fields->float('wander'),
            $fields->float('clustering'),
            $fields->float('reach'),
            $fields->at('at')->vector(),
            $fields->at('axis')->vector(),
            $fields->float('roughness'),
            $fields->float('fineness'),
            $fields->float('smallest'),
            $fields->float('thinnest'),
            $fields->string('prefix'),
            array_map(PieceEdit::read(...), $fields->list('edits')),
        );
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** Where a prop's mesh comes from; see the schema for each field. */
final readonly class Source
{
    private const UNITS = ['m' => 1.0, 'cm' => 0.01, 'mm' => 0.001, 'in' => 0.0254, 'ft' => 0.3048];

    /** @param list<array{float, float}> $profile */
    private function __construct(
        public string $kind,
        public string $asset,
        public string $fileName,
        public float $metresPerUnit,
        public string $up,
        public float $width,
        public float $height,
        public float $depth,
        public float $slab,
        public float $bevel,
        public bool $painted,
        public float $tube,
        public float $wall,
        public int $divisions,
        public array $profile,
        public bool $repair,
        public int $cutLines,
        public int $cutSeed,
        public int $divide,
        public int $smooth,
        public int $even,
        public float $shell,
        public float $shellGap,
        public float $size,
    ) {
    }

    public static function read(Fields $fields): self
    {
        return new self(
            $fields->string('kind'),
            $fields->string('asset'),
            $fields->string('fileName'),
            self::UNITS[$fields->string('units')] ?? 1.0,
            $fields->string('up'),
            $fields->float('width'),
            $fields->float('height'),
            $fields->float('depth'),
            $fields->float('slab'),
            $fields->float('bevel'),
            $fields->bool('painted'),
            $fields->float('tube'),
            $fields->float('wall'),
            $fields->int('divisions'),
            $fields->points('profile'),
            $fields->bool('repair'),
            $fields->int('cutLines'),
            $fields->int('cutSeed'),
            $fields->int('divide'),
            $fields->int('smooth'),
            $fields->int('even'),
            $fields->float('shell'),
            $fields->float('shellGap'),
            $fields->float('size'),
        );
    }
}

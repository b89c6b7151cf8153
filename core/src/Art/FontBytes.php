<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/** A table of a font, read with the highest byte first; whoever reads beyond it has been misled by it. */
final readonly class FontBytes
{
    public function __construct(public string $bytes)
    {
    }

    public function length(): int
    {
        return strlen($this->bytes);
    }

    /** @throws BadFile */
    public function byte(int $at): int
    {
        return $at >= 0 && $at < strlen($this->bytes) ? ord($this->bytes[$at]) : throw self::damaged();
    }

    /**
     * @param int $wide 1 to 4 bytes
     *
     * @throws BadFile
     */
    public function number(int $at, int $wide = 2): int
    {
        if ($wide < 1 || $wide > 4 || $at < 0 || $at + $wide > strlen($this->bytes)) {
            throw self::damaged();
        }
        $value = 0;
        for ($k = 0; $k < $wide; $k++) {
            $value = ($value << 8) + ord($this->bytes[$at + $k]);
        }

        return $value;
    }

    /**
     * The same, below 0 too.
     *
     * @throws BadFile
     */
    public function signed(int $at, int $wide = 2): int
    {
        $value = $this->number($at, $wide);

        return $value >= 1 << (8 * $wide - 1) ? $value - (1 << 8 * $wide) : $value;
    }

    public static function damaged(): BadFile
    {
        return new BadFile('The font is damaged: a table does not hold what it says. Get it again, or use another.');
    }
}

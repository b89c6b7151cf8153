<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use RuntimeException;
use YardBreak\Core\Stage\Assets;

/** Two small pictures: from black at the left to white at the right, and from black below to white above. */
final class Pictures implements Assets
{
    public const ACROSS = 'aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa';

    public const UPWARD = 'bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb';

    private const SIDE = 5;

    /** @var array<string, string> */
    private array $paths = [];

    public function path(string $sha256): ?string
    {
        if ($sha256 !== self::ACROSS && $sha256 !== self::UPWARD) {
            return null;
        }

        return $this->paths[$sha256] ??= self::drawn($sha256 === self::ACROSS);
    }

    private static function drawn(bool $across): string
    {
        $image = imagecreatetruecolor(self::SIDE, self::SIDE) ?: throw new RuntimeException('No picture could be made.');
        for ($x = 0; $x < self::SIDE; $x++) {
            for ($y = 0; $y < self::SIDE; $y++) {
                $tone = (int) round(255 * ($across ? $x : self::SIDE - 1 - $y) / (self::SIDE - 1));
                imagesetpixel($image, $x, $y, ($tone << 16) | ($tone << 8) | $tone);
            }
        }
        $path = (string) tempnam(sys_get_temp_dir(), 'yard');
        imagepng($image, $path);

        return $path;
    }

    public function __destruct()
    {
        foreach ($this->paths as $path) {
            @unlink($path);
        }
    }
}

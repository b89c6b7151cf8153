<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use GdImage;
use YardBreak\Core\Format\BadFile;

/** A picture's pixels: tone and alpha from 0 to 1. Decoding is the image library's job. */
final readonly class Picture
{
    private const BYTES = 64 * 1024 * 1024;

    private const SIDE = 8192;

    /** Larger pictures are made smaller before anything is read off them: outlines need no more. */
    private const WORKING = 1024;

    private function __construct(private GdImage $image, public int $width, public int $height)
    {
    }

    /** @throws BadFile */
    public static function read(string $bytes): self
    {
        if (strlen($bytes) > self::BYTES) {
            throw new BadFile('The picture is larger than 64 MB. Make it smaller first.');
        }
        $known = @getimagesizefromstring($bytes);
        if ($known === false || ! in_array($known[2], [IMAGETYPE_PNG, IMAGETYPE_JPEG], true)) {
            throw new BadFile('The file is no PNG or JPEG picture.');
        }
        if ($known[0] > self::SIDE || $known[1] > self::SIDE || $known[0] < 1 || $known[1] < 1) {
            throw new BadFile(sprintf('The picture has %d by %d pixels; at most %d a side can be read. Make it smaller first.', $known[0], $known[1], self::SIDE));
        }
        $image = @imagecreatefromstring($bytes);
        if ($image === false) {
            throw new BadFile('The picture is damaged and cannot be decoded. Save it again.');
        }
        if (! imageistruecolor($image)) {
            imagepalettetotruecolor($image);
        }
        $most = max($known[0], $known[1]);
        if ($most > self::WORKING) {
            $w = max(1, (int) round($known[0] * self::WORKING / $most));
            $h = max(1, (int) round($known[1] * self::WORKING / $most));
            $small = imagecreatetruecolor($w, $h) ?: throw new BadFile('The picture is too large to be decoded.');
            imagealphablending($small, false);
            imagecopyresampled($small, $image, 0, 0, 0, 0, $w, $h, $known[0], $known[1]);
            $image = $small;
        }

        return new self($image, imagesx($image), imagesy($image));
    }

    public function alpha(int $x, int $y): float
    {
        return 1.0 - ((imagecolorat($this->image, $x, $y) >> 24) & 127) / 127.0;
    }

    /** Brightness as the eye sees it, from black to white (Rec. 709 weights on the encoded values). */
    public function tone(int $x, int $y): float
    {
        $c = imagecolorat($this->image, $x, $y);

        return (0.2126 * (($c >> 16) & 255) + 0.7152 * (($c >> 8) & 255) + 0.0722 * ($c & 255)) / 255.0;
    }

    /** A part of it, scaled to so many pixels along its longer side at most. */
    public function part(float $x, float $y, float $width, float $height, int $pixels): GdImage
    {
        $s = min(1.0, $pixels / max($width, $height, 1.0));
        $w = max(1, (int) round($s * $width));
        $h = max(1, (int) round($s * $height));
        $part = imagecreatetruecolor($w, $h) ?: throw new BadFile('The picture is too large to be decoded.');
        imagesavealpha($part, true);
        imagealphablending($part, false);
        imagecopyresampled($part, $this->image, 0, 0, (int) round($x), (int) round($y), $w, $h, max(1, (int) round($width)), max(1, (int) round($height)));

        return $part;
    }
}

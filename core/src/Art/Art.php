<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use GdImage;
use YardBreak\Core\Format\BadFile;

/** What an art file shows on the face of its slab, as a picture. */
final class Art
{
    /** Pixels along the longer side. */
    private const PIXELS = 1024;

    /** Edges are smoothed by drawing so many times larger. */
    private const FINER = 2;

    /** Whether a file is a picture of pixels; else it is a drawing. */
    public static function isPicture(string $bytes): bool
    {
        return str_starts_with($bytes, "\x89PNG") || str_starts_with($bytes, "\xFF\xD8");
    }

    /**
     * As a PNG, its edges at the bounds of the slab.
     *
     * @throws BadFile
     */
    public static function face(string $bytes): string
    {
        return self::isPicture($bytes) ? self::cropped($bytes) : self::drawn(SvgReader::read($bytes));
    }

    private static function cropped(string $bytes): string
    {
        $picture = Picture::read($bytes);
        [$x0, $y0, $x1, $y1] = PngOutline::of($picture)->bounds();

        return self::png($picture->part($x0, -$y1, $x1 - $x0, $y1 - $y0, self::PIXELS));
    }

    private static function drawn(Artwork $art): string
    {
        [$x0, $y0, $x1, $y1] = $art->bounds();
        $s = self::PIXELS * self::FINER / max($x1 - $x0, $y1 - $y0, 1e-12);
        $w = max(1, (int) ceil($s * ($x1 - $x0)));
        $h = max(1, (int) ceil($s * ($y1 - $y0)));
        $large = self::blank($w, $h);
        foreach ($art->shapes as $shape) {
            self::fill($large, $shape, $s, $x0, $y1);
        }
        $small = self::blank(max(1, intdiv($w, self::FINER)), max(1, intdiv($h, self::FINER)));
        imagecopyresampled($small, $large, 0, 0, 0, 0, imagesx($small), imagesy($small), $w, $h);

        return self::png($small);
    }

    /** Fills row by row, between the places where the outlines cross the row's middle. */
    private static function fill(GdImage $image, Shape $shape, float $s, float $x0, float $y1): void
    {
        $height = imagesy($image);
        $colour = imagecolorallocate($image, max(0, min(255, (int) hexdec(substr($shape->colour, 1, 2)))), max(0, min(255, (int) hexdec(substr($shape->colour, 3, 2)))), max(0, min(255, (int) hexdec(substr($shape->colour, 5, 2)))));
        /** @var array<int, list<array{float, int}>> $crossings */
        $crossings = [];
        foreach ($shape->outlines as $outline) {
            foreach ($outline as $k => [$ax, $ay]) {
                [$bx, $by] = $outline[$k + 1] ?? $outline[0];
                [$ax, $ay, $bx, $by] = [$s * ($ax - $x0), $s * ($y1 - $ay), $s * ($bx - $x0), $s * ($y1 - $by)];
                if ($ay === $by) {
                    continue;
                }
                $way = $ay < $by ? 1 : -1;
                for ($row = (int) max(0, ceil(min($ay, $by) - 0.5)), $last = (int) min($height - 1, ceil(max($ay, $by) - 0.5) - 1); $row <= $last; $row++) {
                    $crossings[$row][] = [$ax + ($row + 0.5 - $ay) / ($by - $ay) * ($bx - $ax), $way];
                }
            }
        }
        foreach ($crossings as $row => $list) {
            sort($list);
            $winding = 0;
            foreach ($list as $k => [$x, $way]) {
                $winding += $shape->evenOdd ? 1 : $way;
                $inside = $shape->evenOdd ? ($winding & 1) === 1 : $winding !== 0;
                if ($inside && isset($list[$k + 1])) {
                    // A hair wider, so that the bevel shows no bare rim.
                    imageline($image, (int) floor($x - 0.5), $row, (int) ceil($list[$k + 1][0] - 0.5), $row, (int) $colour);
                }
            }
        }
    }

    private static function blank(int $w, int $h): GdImage
    {
        $image = imagecreatetruecolor(max(1, $w), max(1, $h)) ?: throw new BadFile('The art is too large to be drawn.');
        imagesavealpha($image, true);
        imagealphablending($image, false);
        imagefill($image, 0, 0, (int) imagecolorallocatealpha($image, 255, 255, 255, 127));

        return $image;
    }

    private static function png(GdImage $image): string
    {
        ob_start();
        imagepng($image, null, 6);

        return (string) ob_get_clean();
    }
}

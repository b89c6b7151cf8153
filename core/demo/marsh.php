<?php

declare(strict_types=1);

// Draws art/marsh.jpg, what is behind *Boathouse breach*: a salt marsh in the evening, the mill far off, the horizon at 0.42 of its height.
// php core/demo/marsh.php

const WIDTH = 1600;
const HEIGHT = 900;
const HORIZON = 378;

mt_srand(7);
$image = imagecreatetruecolor(WIDTH, HEIGHT);
$mix = static fn (array $a, array $b, float $t): array => array_map(static fn ($x, $y): int => (int) round($x + ($y - $x) * max(0.0, min(1.0, $t))), $a, $b);
$paint = static fn (array $rgb): int => ($rgb[0] << 16) | ($rgb[1] << 8) | $rgb[2];

/** Smooth noise along a line: octaves of cosines with phases of their own. */
$waves = static function (int $octaves, float $base): Closure {
    $parts = [];
    for ($k = 0; $k < $octaves; $k++) {
        $parts[] = [$base * 2.03 ** $k, mt_rand() / mt_getrandmax() * 2 * M_PI, 0.55 ** $k];
    }

    return static fn (float $x): float => array_sum(array_map(static fn (array $p): float => $p[2] * cos($p[0] * $x + $p[1]), $parts));
};

// The sky, pale where the sun has gone down, with thin clouds.
$clouds = [$waves(7, 0.004), $waves(6, 0.021), $waves(5, 0.06)];
for ($y = 0; $y < HORIZON; $y++) {
    $up = 1 - $y / HORIZON;
    for ($x = 0; $x < WIDTH; $x++) {
        $glow = exp(-(($x - 420) / 520) ** 2) * exp(-3.2 * $up);
        $rgb = $mix([212, 196, 170], [118, 138, 152], $up ** 0.7);
        $rgb = $mix($rgb, [250, 214, 158], 0.75 * $glow);
        $cloud = $clouds[0]($x + 4 * $y) + $clouds[1]($y * 3.1 + 0.3 * $x) + 0.6 * $clouds[2]($y * 5 - 0.2 * $x);
        $rgb = $mix($rgb, [236, 226, 210], 0.22 * max(0.0, $cloud - 0.4) * (0.3 + $up));
        imagesetpixel($image, $x, $y, $paint($rgb));
    }
}
// The dike far off, and on it the mill with its house.
$dike = $waves(4, 0.006);
$far = $paint([122, 124, 112]);
for ($x = 0; $x < WIDTH; $x++) {
    imageline($image, $x, (int) (HORIZON - 9 - 2.5 * $dike($x)), $x, HORIZON, $far);
}
$mill = $paint([104, 106, 98]);
imagefilledpolygon($image, [1150, HORIZON, 1150, HORIZON - 36, 1176, HORIZON - 58, 1202, HORIZON - 36, 1202, HORIZON], $mill);
imagefilledpolygon($image, [1202, HORIZON, 1202, HORIZON - 24, 1212, HORIZON - 34, 1268, HORIZON - 34, 1278, HORIZON - 24, 1278, HORIZON], $mill);
imagefilledrectangle($image, 1228, HORIZON - 48, 1236, HORIZON - 30, $mill);
// The marsh: grass and wet mud in bands that are as far apart as they are near, in perspective.
$bands = [$waves(6, 0.9), $waves(6, 2.3)];
$grain = $waves(5, 0.011);
for ($y = HORIZON; $y < HEIGHT; $y++) {
    $depth = 40 / ($y - HORIZON + 3);
    $near = ($y - HORIZON) / (HEIGHT - HORIZON);
    for ($x = 0; $x < WIDTH; $x++) {
        $across = ($x - WIDTH / 2) * $depth;
        $wet = $bands[0](14 * $depth + 0.006 * $across) + 0.8 * $bands[1](9 * $depth - 0.017 * $across) + 0.5 * $grain($across * 2);
        $grass = $mix([136, 130, 104], [92, 88, 62], $near);
        $mud = $mix([176, 164, 146], [98, 90, 80], $near);
        $rgb = $mix($grass, $mud, 0.5 + 0.9 * $wet);
        $speck = (mt_rand() / mt_getrandmax() - 0.5) * (10 + 22 * $near);
        imagesetpixel($image, $x, $y, $paint(array_map(static fn (int $c): int => (int) max(0, min(255, $c + $speck)), $rgb)));
    }
}
imagefilter($image, IMG_FILTER_GAUSSIAN_BLUR);
imagejpeg($image, __DIR__ . '/art/marsh.jpg', 82);

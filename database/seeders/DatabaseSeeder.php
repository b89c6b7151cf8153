<?php

declare(strict_types=1);

namespace Database\Seeders;

use App\Models\Shot;
use App\Support\AtomicFile;
use App\Support\ShotBook;
use Illuminate\Database\Seeder;
use YardBreak\Core\Shot\DemoShot;

/** The Tidemill demo, once: on a yard that has never held a shot. */
final class DatabaseSeeder extends Seeder
{
    public function run(ShotBook $book): void
    {
        if (Shot::withTrashed()->exists()) {
            return;
        }
        $shot = $book->create(DemoShot::NAME, DemoShot::document(), 'Tidemill demo');
        $picture = __DIR__ . '/jar-off-the-sill.jpg';
        if (is_file($picture)) {
            AtomicFile::write(config()->string('yard.store') . "/pictures/{$shot->id}.jpg", (string) file_get_contents($picture));
        }
    }
}

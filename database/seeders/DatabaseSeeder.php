<?php

declare(strict_types=1);

namespace Database\Seeders;

use App\Models\Asset;
use App\Models\Shot;
use App\Support\AtomicFile;
use App\Support\FileAssets;
use App\Support\ShotBook;
use Illuminate\Database\Seeder;
use Illuminate\Support\Str;
use YardBreak\Core\Document\DemoShot;

/** The Tidemill demos, once: on a yard that has never held a shot. */
final class DatabaseSeeder extends Seeder
{
    public function run(ShotBook $book): void
    {
        if (Shot::withTrashed()->exists()) {
            return;
        }
        $assets = app(FileAssets::class);
        foreach (DemoShot::assets() as $sha => $file) {
            $assets->keep((string) file_get_contents($file));
            Asset::firstOrCreate(['sha256' => $sha], ['name' => basename($file), 'bytes' => (int) filesize($file)]);
        }
        // The last one made comes first in the yard.
        $order = -count(DemoShot::all());
        foreach (array_reverse(DemoShot::all()) as $name => $document) {
            $shot = $book->create($name, $document, 'Tidemill demo');
            $picture = __DIR__ . '/' . Str::slug($name) . '.jpg';
            if (is_file($picture)) {
                AtomicFile::write(config()->string('yard.store') . "/pictures/{$shot->id}.jpg", (string) file_get_contents($picture));
            }
            // Shots are listed by when they were last touched, to the second.
            $shot->forceFill(['updated_at' => now()->addSeconds($order++)])->save();
        }
    }
}

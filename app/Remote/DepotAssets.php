<?php

declare(strict_types=1);

namespace App\Remote;

use App\Support\FileAssets;
use YardBreak\Core\Stage\Assets;

/** Uploaded files of a yard elsewhere, kept here once they have been fetched. */
final readonly class DepotAssets implements Assets
{
    public function __construct(private FileAssets $own, private Depot $depot)
    {
    }

    public function path(string $sha256): ?string
    {
        $path = $this->own->path($sha256);
        if ($path !== null) {
            // No shot is known here that would say it is needed, see StoreKeeper.
            @touch($path);

            return $path;
        }
        $bytes = $this->depot->asset($sha256);

        return $bytes === null || hash('sha256', $bytes) !== $sha256 ? null : $this->own->path($this->own->keep($bytes));
    }
}

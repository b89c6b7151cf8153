<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Bake;
use App\Models\Revision;
use App\Models\Shot;
use Throwable;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Pipeline;

/** Which state of a shot the files of a bake show. */
final readonly class HandedOff
{
    public function __construct(private Pipeline $pipeline)
    {
    }

    /** The shot as it stands while the bake fits it, so that names, colours and the camera are those of now; else the revision that was baked. */
    public function revision(Bake $bake): Revision
    {
        $head = Shot::withTrashed()->findOrFail($bake->shot_id)->head;
        if ($head === null || $head->id === $bake->revision_id) {
            return $bake->revision;
        }
        try {
            return $this->pipeline->motionHash(ShotDocument::read($head->document)) === $bake->motion_hash ? $head : $bake->revision;
        } catch (Throwable) {
            // What stands there now cannot even be read: it is another shot.
            return $bake->revision;
        }
    }
}

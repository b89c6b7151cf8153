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

    /**
     * What a written file is called.
     *
     * @param string $name of the shot
     * @param array{extension: string, type: string, ofOneFrame: bool} $format
     * @param int $frame for formats that show one
     */
    public static function fileName(ShotDocument $shot, string $name, array $format, int $frame): string
    {
        $name = $format['ofOneFrame'] ? sprintf('%s-%04d', $name, $shot->called($frame)) : $name;

        return (preg_replace('/[^A-Za-z0-9._-]+/', '-', $name) ?? 'pieces') . '.' . $format['extension'];
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

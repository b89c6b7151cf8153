<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Bake;
use App\Models\Shot;
use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakedSightings;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\Weighing;

/** The newest bake of a shot, for weights that go by how others move: it may show another state of the shot, and is the best there is. */
final readonly class SeenBake
{
    public function __construct(private Pipeline $pipeline)
    {
    }

    /** @return Surfaces|null null: its weights need none, or there is none */
    public function for(Shot $shot, ShotDocument $document, Prop $prop): ?Surfaces
    {
        return Weighing::goesByMotion($prop) ? $this->along($shot, $document) : null;
    }

    /** @return Surfaces|null what is seen of props that moved; null: nothing has been baked */
    public function along(Shot $shot, ShotDocument $document): ?Surfaces
    {
        /** @var Bake $bake */
        foreach ($shot->bakes()->where('aside', false)->whereIn('status', ['done', 'failed'])->where('frames_done', '>', 0)->orderByDesc('updated_at')->orderByDesc('id')->limit(5)->get() as $bake) {
            try {
                // In another time it is shown otherwise than it happened.
                $happened = "{$bake->framesPath()}.happened";

                return $this->pipeline->seeing($document, BakedSightings::in(is_file($happened) ? $happened : $bake->framesPath()));
            } catch (BadBake) {
                // Its frames are gone: an older one may do.
            }
        }

        return null;
    }
}

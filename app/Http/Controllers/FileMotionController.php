<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Support\Ask;
use App\Support\Problem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Format\Units;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\FileMotion;
use YardBreak\Core\Stage\Kind\HasMotion;
use YardBreak\Core\Stage\Kind\Kinds;

/** How things and cameras move in files that were brought in, as keys that a document can take. */
final readonly class FileMotionController
{
    /** A picture's shape is one of ours when it is as near to it as this, as a share. */
    private const ALIKE = 0.01;

    public function __construct(private Assets $assets)
    {
    }

    /** Of a prop: the animations in its file, how many frames something moves in the chosen one, and its keys (`position`, `rotation`, `scale`), or why there are none. */
    public function prop(Shot $shot, string $prop): JsonResponse
    {
        $document = ShotDocument::read($shot->head->document ?? []);
        $wanted = $document->prop($prop) ?? throw new Problem(404, 'No such prop', 'The prop is not part of the shot any more.');
        $source = Kinds::source($wanted->source->kind);
        $settings = $wanted->source->settings;
        if (! is_subclass_of($source, HasMotion::class)) {
            return new JsonResponse(['clips' => [], 'frames' => 0, 'keys' => null, 'why' => '']);
        }
        $clip = $wanted->played->string('clip');
        $clips = $source::clips($settings, $this->assets);
        $frames = 0;
        try {
            $frames = (int) ceil($source::lasts($settings, $this->assets, $clip) * $document->fps - 1e-6);

            return new JsonResponse(['clips' => $clips, 'frames' => $frames, 'keys' => $frames === 0 ? null : $source::motion($settings, $this->assets, $clip, $wanted->prepare->float('size'), $document->fps), 'why' => '']);
        } catch (BadFile $why) {
            return new JsonResponse(['clips' => $clips, 'frames' => $frames, 'keys' => null, 'why' => $why->getMessage()]);
        }
    }

    /** Of a camera of a file: the settings of the shot's camera (`camera`), and what is to be said about them (`note`). */
    public function camera(Request $request, string $sha, int $node): JsonResponse
    {
        $path = $this->assets->path($sha) ?? throw new Problem(404, 'No such file', 'The file is not in the store. Bring it in again.');
        $scene = GlbScene::open((string) file_get_contents($path));
        $motion = new FileMotion($scene);
        $own = $motion->aspect($node);
        $shapes = array_values(array_filter(Schema::load()->field(['camera', 'aspect'])['enum'] ?? [], is_string(...)));
        $aspect = in_array($request->query('aspect'), $shapes, true) ? Ask::text($request, 'aspect') : $shapes[0] ?? '1:1';
        $note = '';
        if ($own !== null) {
            $alike = array_values(array_filter($shapes, static fn (string $shape): bool => abs($own / self::ratio($shape) - 1.0) < self::ALIKE));
            $note = $alike === [] ? sprintf('In the file its picture is %.2f to 1; here it is %s, and sees as much from top to bottom.', $own, str_replace(':', ' to ', $aspect)) : '';
            $aspect = $alike[0] ?? $aspect;
        }
        $between = static fn (string $name, float $least, float $most): float => max($least, min($most, (float) Ask::text($request, $name, '1')));

        return new JsonResponse([
            'camera' => ['on' => true, 'aspect' => $aspect] + $motion->camera($node, $between('fps', 1.0, 240.0), Units::metres(Ask::text($request, 'unit', 'm')), $between('away', 1e-3, 1e4), self::ratio($aspect)),
            'note' => $note,
        ]);
    }

    /** @return float width by height */
    private static function ratio(string $shape): float
    {
        [$width, $height] = array_map(floatval(...), explode(':', $shape) + [1 => '1']);

        return $width / $height;
    }
}

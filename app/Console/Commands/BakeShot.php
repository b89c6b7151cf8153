<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Support\FileStageStore;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\Pipeline;

final class BakeShot extends ComputeCommand
{
    protected $signature = 'yard:bake
        {shot : Shot document (JSON)}
        {out : Folder to write to}
        {--assets= : Folder in which the shot’s mesh files lie, by SHA-256 or by name (default: beside the document)}';

    protected $description = 'Bake a shot document into a folder: frames, stage results and the document itself';

    protected function compute(): array
    {
        $path = $this->text('shot');
        $document = self::jsonFile($path);
        $shot = Shot::read($document);
        Consistency::check($shot);
        if ($shot->props === []) {
            throw new BadDocument([['pointer' => '/props', 'detail' => 'The shot has no props.']]);
        }
        $out = self::folder($this->text('out'));
        $assets = $this->text('assets') === '' ? dirname($path) : $this->text('assets');
        $pipeline = new Pipeline(new FileStageStore("{$out}/stages"), new FolderAssets($assets, $shot));
        $begin = microtime(true);
        $last = null;
        $pieces = 0;
        Baker::bake(
            $pipeline,
            $shot,
            "{$out}/bake.frames",
            static function (Manifest $manifest) use (&$pieces): void {
                $pieces = $manifest->pieces();
            },
            function (Frame $frame) use (&$last, $begin, $shot): void {
                $number = $frame->number;
                $left = (microtime(true) - $begin) / ($number + $shot->preRoll) * ($shot->frames - $number);
                $this->say($number < 1 ? sprintf('pre-roll %d of %d, %.1f s left', $number + $shot->preRoll, $shot->preRoll, $left) : sprintf('frame %d of %d, %.1f s left', $number, $shot->frames, $left));
                $last = $frame;
            },
        );
        self::write("{$out}/shot.json", (string) json_encode(Schema::load()->complete($document), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));

        return [
            'shot' => $path,
            'out' => $out,
            'hash' => $pipeline->motionHash($shot),
            'frames' => $shot->frames,
            'pieces' => $pieces,
            'released' => $last?->released(),
            'moving_at_end' => $last?->moving(),
            'frames_sha256' => hash_file('sha256', "{$out}/bake.frames"),
            'seconds' => round(microtime(true) - $begin, 2),
        ];
    }
}

<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Checkpoints;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What acts only from a frame on is computed from there; what was cut off goes on. */
final class CheckpointTest extends TestCase
{
    private string $folder;

    private Pipeline $pipeline;

    private Checkpoints $kept;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/yard-checkpoints-' . getmypid();
        mkdir($this->folder);
        $this->pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $this->kept = new class () implements Checkpoints {
            /** @var array<string, array{string, string}> */
            public array $states = [];

            public function find(string $hash): ?array
            {
                return $this->states[$hash] ?? null;
            }

            public function keep(string $hash, string $state, string $path): void
            {
                $this->states[$hash] = [$state, $path];
            }
        };
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->folder}/*") ?: []);
        rmdir($this->folder);
    }

    /** @return array<mixed> */
    private static function document(): array
    {
        return [
            'version' => 2, 'frames' => 120, 'cues' => [['id' => 'late', 'name' => 'Late', 'frame' => 90]],
            'forces' => [['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity', 'gravity' => ['strength' => ['keys' => [
                ['frame' => 1, 'value' => 9.8, 'ease' => 'hold'], ['frame' => 89, 'value' => 9.8, 'ease' => 'hold'], ['cue' => 'late', 'value' => -2.0, 'ease' => 'hold'],
            ]]]]],
            'props' => [
                ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['y' => 0.5],
                    'break' => ['cellular' => ['pieces' => 12, 'seed' => 3]], 'motion' => ['rigid' => ['before' => 'falls']]],
                ['id' => 'late', 'name' => 'Late', 'source' => ['box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['x' => 1.0, 'y' => 0.3],
                    'break' => ['cellular' => ['pieces' => 4]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 80]]],
            ],
        ];
    }

    /**
     * @param array<mixed> $document
     *
     * @return array{int, list<int>, string} frames taken over, frames computed, path
     */
    private function bake(array $document, string $name, bool $withKept = true): array
    {
        $path = "{$this->folder}/{$name}";
        $computed = [];
        $kept = Baker::bake($this->pipeline, Shot::read($document), $path, stored: static function (Frame $frame) use (&$computed): void {
            $computed[] = $frame->number;
        }, checkpoints: $withKept ? $this->kept : null);

        return [$kept, $computed, $path];
    }

    /** @return list<string> */
    private static function records(string $path, int $from, int $to): array
    {
        $reader = BakeReader::open($path);

        return array_map(static fn (int $n): string => $reader->recordBytes($n), range($from, $to));
    }

    /**
     * @param array<mixed> $changed
     * @param int $from first frame that is computed again
     */
    private function assertBeginsAt(int $from, array $changed, string $name): void
    {
        [$kept, $computed, $path] = $this->bake($changed, $name);
        self::assertSame($from - 1, $kept, $name);
        self::assertSame($from > 120 ? [] : range($from, 120), $computed);
        // What was wholly computed, or not at all, has nothing that was put together.
        $fresh = $from > 120 ? "{$this->folder}/first" : ($from === 1 ? $path : $this->bake($changed, "{$name}-fresh", false)[2]);
        self::assertSame(hash_file('sha256', $fresh), hash_file('sha256', $path), "{$name}: as if all had been computed");
        if ($from > 1) {
            self::assertSame(self::records("{$this->folder}/first", 1, $from - 1), self::records($path, 1, $from - 1));
        }
    }

    #[Group('slow')]
    public function testAChangeThatActsLaterBeginsThere(): void
    {
        self::assertSame([0, range(1, 120)], array_slice($this->bake(self::document(), 'first'), 0, 2));
        $this->assertBeginsAt(121, self::document(), 'the same again');

        $key = self::document();
        $key['forces'][0]['gravity']['strength']['keys'][2]['value'] = -4.0;
        $this->assertBeginsAt(91, $key, 'a later key of gravity');
        $cue = self::document();
        $cue['cues'][0]['frame'] = 95;
        $this->assertBeginsAt(91, $cue, 'a cue moved to 95');
        $release = self::document();
        $release['props'][1]['release']['frame']['frame'] = 84;
        $this->assertBeginsAt(80, $release, 'a later release');
        $name = self::document();
        $name['props'][0]['name'] = 'Brick';
        $this->assertBeginsAt(121, $name, 'a name');

        $velocity = self::document();
        $velocity['props'][0]['motion']['rigid']['velocity'] = ['x' => 0.5];
        $this->assertBeginsAt(1, $velocity, 'a start velocity');
        $early = self::document();
        $early['forces'][0]['gravity']['strength']['keys'][0]['value'] = 5.0;
        $this->assertBeginsAt(2, $early, 'a key at the first frame, which has not acted at it yet');
    }

    /** A longer pre-roll begins like a shorter one, whose state at its first frame was kept. */
    public function testALongerPreRollGoesOnFromAShorterOne(): void
    {
        $document = ['preRoll' => 20, 'frames' => 10] + self::document();
        $document['forces'][0]['gravity']['strength'] = 9.8;
        self::assertSame([0, range(-19, 10)], array_slice($this->bake($document, 'short'), 0, 2));
        [$kept, $computed, $path] = $this->bake(['preRoll' => 50] + $document, 'long');
        self::assertSame([0, range(-28, 10)], [$kept, $computed], 'from the end of the shorter one on');
        [, , $fresh] = $this->bake(['preRoll' => 50] + $document, 'fresh', false);
        self::assertSame(hash_file('sha256', $fresh), hash_file('sha256', $path));
    }

    public function testAnotherLengthComputesOnlyWhatIsNew(): void
    {
        $this->bake(self::document(), 'first');
        $longer = self::document();
        $longer['frames'] = 130;
        [$kept, $computed] = $this->bake($longer, 'longer');
        self::assertSame([120, range(121, 130)], [$kept, $computed]);
        $shorter = self::document();
        $shorter['frames'] = 100;
        [$kept, $computed, $path] = $this->bake($shorter, 'shorter');
        self::assertGreaterThanOrEqual(89, $kept);
        self::assertSame(100, BakeReader::open($path)->frames());
    }

    /** Cut off at any frame, it goes on with the same bytes; when the frames are gone, it begins anew. */
    public function testWhatWasCutOffGoesOn(): void
    {
        [, , $path] = $this->bake(self::document(), 'whole', false);
        $expected = hash_file('sha256', $path);
        foreach ([3, 85, 100] as $at) {
            try {
                Baker::bake($this->pipeline, Shot::read(self::document()), "{$this->folder}/cut", stored: static function (Frame $frame) use ($at): void {
                    if ($frame->number === $at) {
                        throw new RuntimeException('killed');
                    }
                }, checkpoints: $this->kept);
                self::fail('It was not cut off.');
            } catch (RuntimeException) {
            }
        }
        [$kept, , $path] = $this->bake(self::document(), 'cut');
        self::assertGreaterThanOrEqual(80, $kept);
        self::assertSame($expected, hash_file('sha256', $path));
        unlink($path);
        [$kept, , $path] = $this->bake(self::document(), 'anew');
        self::assertSame(0, $kept);
        self::assertSame($expected, hash_file('sha256', $path));
    }
}

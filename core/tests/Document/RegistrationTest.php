<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\CueFrames;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Dummy;

/** A kind that nobody has heard of works from the document to the frames by its class, its schema file and one line. */
final class RegistrationTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/yard-kinds-' . getmypid();
        $number = static fn (float $default): array => ['type' => 'number', 'title' => 'Number', 'description' => 'A number.', 'default' => $default, 'minimum' => 0, 'maximum' => 100];
        foreach ([
            'source/plank' => ['length' => $number(2.0)],
            'pattern/fives' => ['times' => ['type' => 'integer'] + $number(2)],
            'weight/steps' => ['at' => $number(8.0)],
            'trigger/weighed' => [],
            'force/sideways' => ['pull' => $number(3.0)],
            'moment/soMany' => ['before' => $number(1.0)],
            'mover/lifts' => ['rise' => $number(0.25)],
        ] as $name => $properties) {
            [$registry, $kind] = explode('/', $name);
            @mkdir("{$this->folder}/{$registry}", recursive: true);
            file_put_contents("{$this->folder}/{$name}.json", json_encode([
                'title' => ucfirst($kind), 'order' => 90, 'description' => 'A dummy.', 'summary' => $kind, 'properties' => $properties === [] ? new \stdClass() : $properties,
                ...$registry === 'pattern' ? ['traits' => ['solid' => true]] : [],
            ], JSON_THROW_ON_ERROR));
        }
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->folder}/*/*") ?: []);
        array_map(rmdir(...), glob("{$this->folder}/*") ?: []);
        rmdir($this->folder);
    }

    /**
     * @template T
     *
     * @param callable(): T $work
     *
     * @return T
     */
    private function registered(callable $work): mixed
    {
        return Schema::with($this->folder, static fn (): mixed => Kinds::with([
            'source' => ['plank' => Dummy\Plank::class],
            'pattern' => ['fives' => Dummy\Fives::class],
            'weight' => ['steps' => Dummy\Steps::class],
            'trigger' => ['weighed' => Dummy\AllWeighed::class],
            'force' => ['sideways' => Dummy\Sideways::class],
            'moment' => ['soMany' => Dummy\AfterSoMany::class],
            'mover' => ['lifts' => Dummy\Lifts::class],
        ], $work));
    }

    /** @return array<string, mixed> */
    private static function document(): array
    {
        $prop = ['source' => ['kind' => 'plank', 'plank' => ['length' => 4.0]], 'position' => ['y' => 3.0], 'break' => ['pattern' => 'fives', 'fives' => ['times' => 3]]];

        return ['version' => 2, 'frames' => 12, 'planes' => [], 'forces' => [['id' => 's', 'name' => 'S', 'force' => 'sideways', 'sideways' => ['pull' => 6.0]]], 'props' => [
            ['id' => 'hard', 'name' => 'Hard', ...$prop, 'weight' => ['stack' => [['source' => 'steps', 'steps' => ['at' => 5.0]]]], 'release' => ['trigger' => 'weighed']],
            ['id' => 'high', 'name' => 'High', ...$prop, 'motion' => ['mover' => 'lifts', 'lifts' => ['rise' => 0.5]]],
        ]];
    }

    #[Group('slow')]
    public function testKindsOfAllRegistriesWorkTogether(): void
    {
        $this->registered(static function (): void {
            $shot = Shot::read(self::document());
            $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
            $frames = iterator_to_array($pipeline->frames($shot));
            self::assertCount(15, $pipeline->broken($shot->props[0])->pieces, 'three times five');
            self::assertEqualsWithDelta(4.0, $pipeline->broken($shot->props[0])->bounds[1][0] - $pipeline->broken($shot->props[0])->bounds[0][0], 1e-9);
            self::assertSame([0, 15], [$frames[4]->released(), $frames[5]->released()], 'from frame 5 on all have a weight');
            [$from, $to] = [$frames[5]->of('hard', Track::POSE), $frames[11]->of('hard', Track::POSE)];
            // Six frames from rest at 6 m/s2: a t2 / 2, and what the step adds.
            self::assertEqualsWithDelta(3.0 * 0.25 ** 2, (float) $to[0] - (float) $from[0], 0.02);
            self::assertEqualsWithDelta($from[1], $to[1], 1e-9, 'nothing pulls down');
            self::assertEqualsWithDelta(0.5 * 11, (float) $frames[12]->of('high', Track::POSE)[1] - (float) $frames[1]->of('high', Track::POSE)[1], 1e-9);
        });
    }

    public function testACueIsFoundByAKindThatWasAdded(): void
    {
        $this->registered(static function (): void {
            $cue = ['id' => 'late', 'name' => 'Late', 'at' => ['moment' => 'soMany', 'soMany' => ['before' => 4.0]]];
            $complete = Schema::load()->complete(self::document() + ['cues' => [$cue]]);
            $document = CueFrames::found($complete, Shot::read($complete), (new Pipeline(new MemoryStore(), new NoAssets()))->surfaces);
            self::assertSame(8, Shot::read($document)->cues['late']['frame']);
        });
    }

    public function testTheirSettingsDecideTheHashAndTheirLimitsHold(): void
    {
        $this->registered(static function (): void {
            $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
            $hashes = [$pipeline->motionHash(Shot::read(self::document()))];
            foreach ([['forces', 0, 'sideways', 'pull'], ['props', 0, 'source', 'plank', 'length'], ['props', 0, 'break', 'fives', 'times'], ['props', 1, 'motion', 'lifts', 'rise']] as $path) {
                $document = self::document();
                $at = &$document;
                foreach ($path as $part) {
                    self::assertIsArray($at);
                    $at = &$at[$part];
                }
                $at = 1;
                unset($at);
                $hashes[] = $pipeline->motionHash(Shot::read($document));
            }
            self::assertSame($hashes, array_unique($hashes));
            $document = self::document();
            $document['forces'][0]['sideways']['pull'] = 1000.0;
            try {
                Shot::read($document);
                self::fail('It was taken.');
            } catch (BadDocument $error) {
                self::assertSame('/forces/0/sideways/pull', $error->errors[0]['pointer']);
            }
        });
    }

    public function testAfterwardsNobodyKnowsThem(): void
    {
        $this->registered(static fn (): array => Shot::read(self::document())->props);
        $this->expectException(BadDocument::class);
        Shot::read(self::document());
    }
}

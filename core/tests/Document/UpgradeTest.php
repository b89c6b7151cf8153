<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Kind\Kinds;

/** Documents of version 1, as they were stored, and kinds by registration. */
final class UpgradeTest extends TestCase
{
    /** Demos that have been made anew since version 1. */
    private const REWRITTEN = ['The bell sheds its skin', 'Chimney comes down'];

    /** The demos as they were in version 1 become what they are now. */
    public function testTheDemosOfVersionOneBecomeThoseOfToday(): void
    {
        $today = DemoShot::all();
        $seen = 0;
        foreach (glob(__DIR__ . '/../Fixture/v1/*.json') ?: [] as $file) {
            $old = json_decode((string) file_get_contents($file), true);
            self::assertIsArray($old);
            self::assertSame(1, $old['document']['version']);
            $upgraded = Schema::load()->complete($old['document']);
            self::assertSame(2, $upgraded['version']);
            if (isset($today[$old['name']]) && ! in_array($old['name'], self::REWRITTEN, true)) {
                $seen++;
                self::assertEquals(self::without(Schema::load()->complete($today[$old['name']])), self::without($upgraded), $old['name']);
            }
        }
        self::assertGreaterThan(4, $seen);
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed> it without what has been said of how it is seen since
     */
    private static function without(array $document): array
    {
        unset($document['camera'], $document['lights'], $document['backdrop']);
        foreach (array_keys($document['props']) as $k) {
            unset($document['props'][$k]['look']['relief'], $document['props'][$k]['look']['innerRelief'], $document['props'][$k]['look']['reliefSize'], $document['props'][$k]['look']['reliefAlong']);
        }

        return $document;
    }

    public function testWhatWasSetOfAKindStaysWithIt(): void
    {
        $shot = Shot::read(['version' => 1, 'gravity' => ['keys' => [['frame' => 3, 'value' => 2.0, 'ease' => 'hold']]], 'floor' => ['on' => false], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'file', 'asset' => str_repeat('a', 64), 'fileName' => 'a.obj', 'units' => 'mm', 'repair' => true, 'smooth' => 2],
            'place' => ['x' => 3.0], 'turn' => ['z' => 20.0],
            'break' => ['pattern' => 'flakes', 'flakes' => 321, 'seed' => 9, 'roughness' => 0.4, 'prefix' => 'x', 'edits' => [['kind' => 'again', 'at' => [1, 2, 3], 'with' => ['pattern' => 'web', 'rays' => 5]]]],
            'timing' => ['release' => 'blow', 'from' => 4, 'to' => 8, 'spread' => 0.3, 'threshold' => 0.7],
            'motion' => ['before' => 'falls', 'bounce' => 0.4, 'spin' => ['y' => 90.0]],
        ]]]);
        $prop = $shot->props[0];
        self::assertSame('mm', $prop->source->settings->string('units'));
        self::assertTrue($prop->source->settings->bool('repair'));
        self::assertSame(2, $prop->prepare->int('smooth'));
        self::assertSame([3.0, 0.0, 0.0], $prop->transform->positionAt(1.0));
        self::assertSame(321, $prop->pattern->settings->int('count'));
        self::assertSame(9, $prop->break->at('finish')->int('seed'));
        self::assertSame('x', $prop->prefix());
        self::assertSame(['web', 5], [$prop->edits[0]->with->kind, $prop->edits[0]->with->settings->int('rays')]);
        self::assertSame(0.7, $prop->trigger->settings->float('threshold'));
        self::assertSame(['blow', 0.3], [$prop->weight->stack[0]->choice('source')->kind, $prop->weight->stack[0]->choice('source')->settings->float('reach')]);
        self::assertSame([0.0, 90.0, 0.0], $prop->mover->settings->vector('angularVelocity'));
        self::assertSame(2.0, $shot->forces[0]->kind->settings->animated('strength')->at(1.0));
        self::assertSame([], $shot->planes, 'the floor was switched off');
    }

    public function testABadOldDocumentIsRefusedInItsOwnWords(): void
    {
        try {
            Shot::read(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'motion' => ['friction' => 9]]]]);
            self::fail('It was taken.');
        } catch (BadDocument $error) {
            self::assertSame('/props/0/motion/friction', $error->errors[0]['pointer']);
        }
    }

    /** Every kind with a schema file has a class, and the other way round. */
    public function testSchemaAndRegistriesNameTheSameKinds(): void
    {
        foreach (Kinds::names() as $registry => $kinds) {
            self::assertEqualsCanonicalizing(Schema::load()->kinds($registry), $kinds, $registry);
        }
    }
}

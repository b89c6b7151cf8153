<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use LogicException;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Conditions;
use YardBreak\Core\Document\Schema;

/** When a field matters: every kind of condition, and from where it looks things up. */
final class ConditionsTest extends TestCase
{
    /** @return iterable<string, array{mixed, bool}> */
    public static function conditions(): iterable
    {
        yield 'always' => [true, true];
        yield 'never' => [false, false];
        yield 'one of some values' => [['field' => 'how', 'is' => ['a', 'b']], true];
        yield 'none of them' => [['field' => 'how', 'is' => ['c']], false];
        yield 'a number that came as a fraction' => [['field' => 'count', 'is' => [3]], true];
        yield 'a switch' => [['field' => 'on', 'is' => [true]], true];
        yield 'a switch is no number' => [['field' => 'on', 'is' => [1]], false];
        yield 'above' => [['field' => 'count', 'above' => 2], true];
        yield 'below' => [['field' => 'count', 'below' => 2], false];
        yield 'below a larger one' => [['field' => 'count', 'below' => 200], true];
        yield 'not above itself' => [['field' => 'count', 'above' => 3], false];
        yield 'a text is above nothing' => [['field' => 'how', 'above' => 0], false];
        yield 'fewer' => [['field' => 'list', 'fewer' => 3], true];
        yield 'not fewer' => [['field' => 'list', 'fewer' => 2], false];
        yield 'what is not there has fewer' => [['field' => 'nothing', 'fewer' => 1], true];
        yield 'what is not there is nothing' => [['field' => 'nothing', 'is' => ['a']], false];
        yield 'from the prop' => [['field' => '/release/trigger', 'is' => ['weight']], true];
        yield 'beside it there is none of that name' => [['field' => 'trigger', 'is' => ['weight']], false];
        yield 'a way that leads nowhere' => [['field' => '/release/nothing/deep', 'is' => ['weight']], false];
        yield 'a kind with a trait' => [['choice' => '/release/trigger', 'trait' => 'weight'], true];
        yield 'a kind without it' => [['choice' => '/release/trigger', 'trait' => 'moment'], false];
        yield 'a trait that hangs on a setting' => [['choice' => '/motion/mover', 'trait' => 'startsFree'], true];
        yield 'any' => [['any' => [['field' => 'how', 'is' => ['c']], ['field' => 'count', 'above' => 2]]], true];
        yield 'none of any' => [['any' => [['field' => 'how', 'is' => ['c']], ['field' => 'count', 'above' => 3]]], false];
        yield 'all' => [[['field' => 'how', 'is' => ['a']], ['field' => 'count', 'above' => 2]], true];
        yield 'not all' => [[['field' => 'how', 'is' => ['a']], ['field' => 'count', 'above' => 3]], false];
        yield 'all of any' => [[['any' => [['field' => 'how', 'is' => ['a']]]], ['any' => [['field' => 'how', 'is' => ['c']]]]], false];
    }

    #[DataProvider('conditions')]
    public function testAConditionHoldsOrNot(mixed $when, bool $holds): void
    {
        $beside = ['how' => 'a', 'count' => 3.0, 'on' => true, 'list' => [1, 2]];
        $top = ['release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.5]], 'motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'falls']]];
        self::assertSame($holds, Conditions::hold($when, $beside, $top, Schema::load()));
    }

    public function testWhatIsNoConditionIsAFaultOfOurs(): void
    {
        $this->expectException(LogicException::class);
        Conditions::hold(['feild' => 'how', 'is' => ['a']], [], [], Schema::load());
    }
}

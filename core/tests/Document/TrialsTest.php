<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Difference;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Trials;

final class TrialsTest extends TestCase
{
    public function testEachHasOneValueAndAllElseTheSame(): void
    {
        $document = $this->document();
        $trials = Trials::of($document, '/props/0/break/cellular/pieces', [8, 20, 20, 500]);
        self::assertSame(['Pieces 8', 'Pieces 20', 'Pieces 500'], array_column($trials, 'label'), 'none twice');
        self::assertSame($document, $trials[1]['document'], 'with the value that it has it is the same');
        self::assertSame(['/props/0/break/cellular/pieces'], array_column(Difference::between($document, $trials[0]['document']), 'pointer'));
        self::assertSame(500, $trials[2]['document']['props'][0]['break']['cellular']['pieces']);
        self::assertSame(['Settle below 0.2 m/s'], array_column(Trials::of($document, '/settleSpeed', [0.2]), 'label'));
    }

    public function testTheValueThatIsTakenGoesIntoTheShotAsItStands(): void
    {
        $document = $this->document();
        $pointer = '/props/0/break/cellular/pieces';
        $tried = Trials::of($document, $pointer, [500])[0]['document'];
        // Since then another prop came before it, and something else was changed.
        $now = $document;
        $now['settleSpeed'] = 0.2;
        array_unshift($now['props'], ['id' => 'b'] + $now['props'][0]);
        $taken = Trials::taken($now, $tried, $pointer);
        self::assertSame(['/props/1/break/cellular/pieces'], array_column(Difference::between($now, $taken), 'pointer'));
        self::assertSame(500, $taken['props'][1]['break']['cellular']['pieces']);
        self::assertSame($tried, Trials::taken($document, $tried, $pointer));
        $this->expectExceptionMessage('no longer has what it tries');
        Trials::taken(['props' => [['id' => 'b'] + $document['props'][0]]] + $document, $tried, $pointer);
    }

    /** @param list<mixed> $values */
    #[DataProvider('wrong')]
    public function testWhatCannotBeTriedIsSaid(string $pointer, array $values, string $where, string $words): void
    {
        try {
            Trials::of($this->document(), $pointer, $values);
            self::fail('It was taken.');
        } catch (BadDocument $bad) {
            self::assertSame($where, $bad->errors[0]['pointer']);
            self::assertStringContainsString($words, $bad->errors[0]['detail']);
        }
    }

    /** @return array<string, array{string, list<mixed>, string, string}> */
    public static function wrong(): array
    {
        return [
            'nothing there' => ['/props/3/motion', [1], '/pointer', 'a number of the shot'],
            'not a number' => ['/props/0/name', [1], '/pointer', 'a number of the shot'],
            'a whole part' => ['/props/0', [1], '/pointer', 'a number of the shot'],
            'no pointer' => ['', [1], '/pointer', 'a number of the shot'],
            'keys' => ['/props/0/position/y', [1], '/pointer', 'has keys'],
            'none' => ['/settleSpeed', [], '/values', 'at least one'],
            'too many' => ['/settleSpeed', range(1, 9), '/values', '8 values'],
            'a text' => ['/settleSpeed', [1, '2'], '/values/1', 'a number'],
        ];
    }

    /** @return array<mixed> */
    private function document(): array
    {
        return Schema::load()->complete(['version' => 2, 'props' => [[
            'id' => 'a',
            'name' => 'A',
            'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 20]],
            'position' => ['x' => 0, 'y' => ['keys' => [['frame' => 1, 'value' => 1], ['frame' => 9, 'value' => 2]]], 'z' => 0],
        ]]]);
    }
}

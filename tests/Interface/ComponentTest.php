<?php

declare(strict_types=1);

namespace Tests\Interface;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/** Components of the interface by themselves (tests/Components, by vitest and testing-library), so that one runner starts all. */
#[Group('thorough')]
final class ComponentTest extends TestCase
{
    public function testTheyDoWhatTheySay(): void
    {
        $report = tempnam(sys_get_temp_dir(), 'components');
        self::assertNotFalse($report);
        $root = dirname(__DIR__, 2);
        exec('cd ' . escapeshellarg($root) . ' && npx --no-install vitest run --reporter=json --outputFile=' . escapeshellarg($report) . ' 2>&1', $said, $status);
        $results = json_decode((string) file_get_contents($report), true);
        unlink($report);
        self::assertIsArray($results, implode("\n", $said));
        $failed = [];
        foreach ($results['testResults'] as $file) {
            $failed[] = $file['message'];
            foreach ($file['assertionResults'] as $each) {
                $failed[] = $each['status'] === 'passed' ? '' : "{$each['fullName']} ({$each['status']}): " . implode("\n", $each['failureMessages']);
            }
        }
        self::assertSame('', implode("\n", array_filter($failed)));
        self::assertSame(0, $status, implode("\n", $said));
        self::assertGreaterThanOrEqual(33, $results['numPassedTests']);
    }
}

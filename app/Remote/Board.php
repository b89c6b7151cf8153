<?php

declare(strict_types=1);

namespace App\Remote;

use Illuminate\Redis\Connections\Connection;

/**
 * What is known of each bake that workers elsewhere may take: how far it is, who has it, and whether it is to stop. Only who has
 * it may change what is said of it; his right runs out when he is not heard of.
 */
final readonly class Board
{
    /** Sets fields if the one who asks has the bake, and renews his right. */
    private const NOTE = <<<'LUA'
        if redis.call('get', KEYS[2]) ~= ARGV[1] then return 0 end
        redis.call('pexpire', KEYS[2], ARGV[2])
        for k = 3, #ARGV, 2 do redis.call('hset', KEYS[1], ARGV[k], ARGV[k + 1]) end
        return 1
        LUA;

    /** All fields, and the owner. */
    private const SEEN = <<<'LUA'
        local seen = redis.call('hgetall', KEYS[1])
        local owner = redis.call('get', KEYS[2])
        if #seen > 0 and owner then
            seen[#seen + 1] = 'owner'
            seen[#seen + 1] = owner
        end
        return seen
        LUA;

    /** Lets go of what one has. */
    private const LEAVE = <<<'LUA'
        if redis.call('get', KEYS[1]) == ARGV[1] then redis.call('del', KEYS[1]) end
        return 1
        LUA;

    public function __construct(private Connection $redis)
    {
    }

    public function open(string $bake): void
    {
        $this->redis->command('hset', [self::bake($bake), 'status', 'queued']);
    }

    /** @return array<string, string> what is said of a bake, and its owner if it has one, at one moment; none: nobody knows it here */
    public function seen(string $bake): array
    {
        $flat = $this->redis->command('eval', [self::SEEN, 2, self::bake($bake), self::owner($bake)]);
        $seen = [];
        foreach (array_chunk(is_array($flat) ? array_filter($flat, is_string(...)) : [], 2) as [$name, $value]) {
            $seen[$name] = $value;
        }

        return $seen;
    }

    /** @return bool false: somebody has it, or it is gone */
    public function take(string $bake, string $worker, float $seconds): bool
    {
        if ($this->seen($bake) === []) {
            return false;
        }

        return (bool) $this->redis->command('set', [self::owner($bake), $worker, 'PX', (int) (1000 * $seconds), 'NX']);
    }

    /**
     * @param array<string, string|int> $fields
     *
     * @return bool false: somebody else has it by now
     */
    public function note(string $bake, string $worker, float $seconds, array $fields = []): bool
    {
        $flat = [];
        foreach ($fields as $name => $value) {
            array_push($flat, $name, $value);
        }

        return (bool) $this->redis->command('eval', [self::NOTE, 2, self::bake($bake), self::owner($bake), $worker, (int) (1000 * $seconds), ...$flat]);
    }

    public function leave(string $bake, string $worker): void
    {
        $this->redis->command('eval', [self::LEAVE, 1, self::owner($bake), $worker]);
    }

    public function stop(string $bake): void
    {
        $this->redis->command('hset', [self::bake($bake), 'cancel', '1']);
    }

    public function forget(string $bake): void
    {
        $this->redis->command('del', [self::bake($bake), self::owner($bake)]);
    }

    /** A worker that waits for work says that it is there. */
    public function here(string $worker, float $seconds): void
    {
        $this->redis->command('set', ["worker:{$worker}", '1', 'PX', (int) (1000 * $seconds)]);
    }

    /** How many have said so lately. */
    public function workers(): int
    {
        // Few names are there at all: those of workers and of bakes under way.
        $found = $this->redis->command('eval', ["return #redis.call('keys', KEYS[1])", 1, 'worker:*']);

        return is_int($found) ? $found : 0;
    }

    private static function bake(string $bake): string
    {
        return "bake:{$bake}";
    }

    private static function owner(string $bake): string
    {
        return "bake:{$bake}:owner";
    }
}

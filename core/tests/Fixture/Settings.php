<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

/** Settings as the form knows them: which are shown, and what else they could be. */
trait Settings
{
    /**
     * Whether a setting is shown with the others as they are.
     *
     * @param array<mixed> $values
     */
    private static function holds(mixed $condition, array $values): bool
    {
        self::assertIsArray($condition);
        if (array_is_list($condition)) {
            return array_filter($condition, static fn (mixed $part): bool => ! self::holds($part, $values)) === [];
        }
        if (is_array($condition['any'] ?? null)) {
            return array_filter($condition['any'], static fn (mixed $part): bool => self::holds($part, $values)) !== [];
        }
        $value = $values[$condition['field']];
        if (isset($condition['fewer'])) {
            return count((array) $value) < $condition['fewer'];
        }

        if (is_array($condition['is'] ?? null)) {
            // JSON knows one kind of number.
            return in_array(is_int($value) ? (float) $value : $value, array_map(static fn (mixed $v): mixed => is_int($v) ? (float) $v : $v, $condition['is']), true);
        }

        return $value > $condition['above'];
    }

    /**
     * Other values that a setting can take.
     *
     * @param array<mixed> $field
     *
     * @return list<mixed>
     */
    private static function others(array $field, mixed $value): array
    {
        if (($field['x-vector'] ?? false) === true) {
            return [['x' => 0.17, 'y' => 0.11, 'z' => 0.05]];
        }
        if (is_array($field['enum'] ?? null)) {
            return array_values(array_diff($field['enum'], [$value]));
        }
        if (is_bool($value)) {
            return [! $value];
        }
        self::assertTrue(is_int($value) || is_float($value), (string) json_encode($field));
        [$low, $high] = [$field['minimum'] ?? 0, $field['maximum'] ?? 1];
        self::assertTrue((is_int($low) || is_float($low)) && (is_int($high) || is_float($high)));
        $candidates = [];
        foreach ([0.6 * $value, 1.5 * $value, $value + 3, $value + 0.3, 0.05] as $other) {
            $other = ($field['type'] ?? '') === 'integer' ? (int) round($other) : $other;
            if ($other >= $low && $other <= $high && $other != $value) {
                $candidates[] = $other;
            }
        }

        return $candidates;
    }
}

<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;

/**
 * One state of a shot's document, never changed once stored.
 *
 * @property string $id
 * @property string $shot_id
 * @property string|null $parent_id
 * @property int $number
 * @property array<mixed> $document
 * @property string $summary
 * @property \Illuminate\Support\Carbon $created_at
 */
final class Revision extends Model
{
    use HasUlids;

    public const UPDATED_AT = null;

    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['document' => 'array', 'created_at' => 'datetime'];
}

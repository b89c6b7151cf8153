<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A file made of a bake in the queue, because it takes a while.
 *
 * @property string $id
 * @property string $bake_id
 * @property string|null $revision_id
 * @property Revision|null $revision the state of the shot that it shows; null: that which was baked
 * @property string $format
 * @property int $frame for formats that show one
 * @property string $status queued, running, done, failed or cancelled
 * @property int $done of the total
 * @property int $total
 * @property string|null $owner the worker that writes it
 * @property string|null $error
 * @property float|null $started_at
 * @property Bake $bake
 */
final class Export extends Model
{
    use HasUlids;

    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['started_at' => 'float'];

    /** @return BelongsTo<Bake, $this> */
    public function bake(): BelongsTo
    {
        return $this->belongsTo(Bake::class);
    }

    /** @return BelongsTo<Revision, $this> */
    public function revision(): BelongsTo
    {
        return $this->belongsTo(Revision::class);
    }

    public function path(): string
    {
        return config()->string('yard.store') . "/exports/{$this->id}";
    }

    public function isLive(): bool
    {
        return $this->status === 'queued' || $this->status === 'running';
    }
}

<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\SoftDeletingScope;
use Illuminate\Support\Carbon;

/**
 * One simulation of one revision. It has one owner at a time: the worker whose lease has not run out.
 *
 * @property string $id
 * @property string $shot_id
 * @property string $revision_id
 * @property string $motion_hash
 * @property string $status queued, running, done, failed or cancelled
 * @property int $frames
 * @property int $frames_done the last frame that was computed; below 1 in the pre-roll, before anything as many below 0 as that has frames
 * @property int $pieces
 * @property int $kept frames that were taken over, not computed
 * @property string|null $error
 * @property string|null $owner
 * @property float $lease_until
 * @property bool $cancel
 * @property bool $pinned whether it stays, whatever comes after it
 * @property string|null $trial what it tries: "Seed 8"
 * @property string|null $tries JSON Pointer to the setting whose value that is
 * @property bool $aside whether it is not shown by itself: the shot does not stand where it was baked
 * @property int $lost workers that it has lost in a row after one frame
 * @property int|null $lost_at that frame
 * @property float|null $started_at
 * @property float|null $finished_at
 * @property Carbon|null $created_at
 * @property Carbon|null $updated_at
 * @property Revision $revision
 * @property Shot|null $shot
 */
final class Bake extends Model
{
    use HasUlids;

    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['cancel' => 'boolean', 'pinned' => 'boolean', 'aside' => 'boolean', 'lease_until' => 'float', 'started_at' => 'float', 'finished_at' => 'float'];

    /** @return BelongsTo<Shot, $this> also if it has been deleted */
    public function shot(): BelongsTo
    {
        /** @var BelongsTo<Shot, $this> $shot */
        $shot = $this->belongsTo(Shot::class)->withoutGlobalScope(SoftDeletingScope::class);

        return $shot;
    }

    /** @return BelongsTo<Revision, $this> */
    public function revision(): BelongsTo
    {
        return $this->belongsTo(Revision::class);
    }

    /** Frames before the first. */
    public function preRoll(): int
    {
        return (int) ($this->revision->document['preRoll'] ?? 0);
    }

    public function framesPath(): string
    {
        return config()->string('yard.store') . "/bakes/{$this->id}.frames";
    }

    /** From now on it is what is shown of its shot. */
    public function showFirst(): void
    {
        // A second later than the newest: they are told apart by the second.
        $newest = self::where('shot_id', $this->shot_id)->max('updated_at');
        $this->forceFill(['aside' => false, 'updated_at' => max(now(), Carbon::parse(is_string($newest) ? $newest : 'now')->addSecond())])->save();
    }

    public function isLive(): bool
    {
        return $this->status === 'queued' || $this->status === 'running';
    }
}

<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Database\Eloquent\SoftDeletes;

/**
 * A shot: a name and the revision it stands at. Undo and redo move the head along the revisions; nothing is overwritten.
 *
 * @property string $id
 * @property string $name
 * @property string|null $head_id
 * @property Revision|null $head
 * @property string|null $owner_id null: everybody's
 * @property Person|null $owner
 * @property \Illuminate\Database\Eloquent\Collection<int, Person> $people
 * @property \Illuminate\Support\Carbon|null $updated_at
 */
final class Shot extends Model
{
    use HasUlids;
    use SoftDeletes;

    protected $guarded = [];

    /** @return BelongsTo<Revision, $this> */
    public function head(): BelongsTo
    {
        return $this->belongsTo(Revision::class, 'head_id');
    }

    /** @return BelongsTo<Person, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    /** @return BelongsToMany<Person, $this> with whom its owner shares it */
    public function people(): BelongsToMany
    {
        return $this->belongsToMany(Person::class, 'shared_shots');
    }

    /** @return HasMany<Revision, $this> */
    public function revisions(): HasMany
    {
        return $this->hasMany(Revision::class);
    }

    /** @return HasMany<Bake, $this> */
    public function bakes(): HasMany
    {
        return $this->hasMany(Bake::class);
    }
}

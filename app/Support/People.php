<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Person;
use App\Models\Shot;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\SoftDeletingScope;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;

/**
 * Who works here. On this machine alone nobody signs in, and all shots are there for whoever sits before it. Beyond it everybody
 * does: a shot is its owner's and theirs with whom it is shared; one without an owner is everybody's.
 */
final class People
{
    public static function signIn(): bool
    {
        return config()->array('yard.hosts') !== [];
    }

    /** Who is signed in; null: nobody needs to be. */
    public static function me(): ?Person
    {
        $person = self::signIn() ? Auth::user() : null;

        return $person instanceof Person ? $person : null;
    }

    /**
     * Shots that may be seen.
     *
     * @return Builder<Shot>
     */
    public static function shots(): Builder
    {
        $shots = Shot::query();
        if (self::signIn()) {
            $me = self::me()->id ?? '';
            $shared = DB::table('shared_shots')->where('person_id', $me)->select('shot_id');
            $shots->where(static fn ($some) => $some->whereNull('owner_id')->orWhere('owner_id', $me)->orWhereIn('id', $shared));
        }

        return $shots;
    }

    public static function sees(Shot $shot): bool
    {
        return self::shots()->withoutGlobalScope(SoftDeletingScope::class)->whereKey($shot->id)->exists();
    }

    /** Whether a shot may be deleted and shared: by its owner; one without an owner by anybody. */
    public static function owns(Shot $shot): bool
    {
        return ! self::signIn() || $shot->owner_id === null || $shot->owner_id === self::me()?->id;
    }

    /** A file that somebody has brought in, or that is in a shot that may be seen. */
    public static function seesAsset(string $sha): bool
    {
        return ! self::signIn()
            || DB::table('brought_assets')->where('sha256', $sha)->where('person_id', self::me()?->id)->exists()
            || self::shots()->whereHas('head', static fn (Builder $head) => $head->where('document', 'like', "%{$sha}%"))->exists();
    }

    public static function hasBrought(string $sha): void
    {
        $me = self::me();
        if ($me !== null) {
            DB::table('brought_assets')->insertOrIgnore(['sha256' => $sha, 'person_id' => $me->id]);
        }
    }
}

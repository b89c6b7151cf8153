<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Foundation\Auth\User;

/**
 * Somebody who may sign in.
 *
 * @property string $id
 * @property string $name
 * @property string $password hashed
 */
final class Person extends User
{
    use HasUlids;

    protected $table = 'people';

    protected $guarded = [];

    protected $hidden = ['password'];

    /** @var array<string, string> */
    protected $casts = ['password' => 'hashed'];

    /** Nobody is remembered beyond the session. */
    public function getRememberTokenName(): string
    {
        return '';
    }
}

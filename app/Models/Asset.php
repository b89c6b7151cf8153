<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * An uploaded file, by its content.
 *
 * @property string $sha256
 * @property string $name
 * @property int $bytes
 */
final class Asset extends Model
{
    public $incrementing = false;

    protected $primaryKey = 'sha256';

    protected $keyType = 'string';

    protected $guarded = [];
}

<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A file shows the shot as it stood when the file was asked for; files from before are written again. */
return new class () extends Migration {
    public function up(): void
    {
        Schema::table('exports', function (Blueprint $table): void {
            $table->ulid('revision_id')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('exports', function (Blueprint $table): void {
            $table->dropColumn('revision_id');
        });
    }
};

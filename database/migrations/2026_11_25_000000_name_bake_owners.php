<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** An owner's name says its machine and process; it is longer than a UUID. */
return new class () extends Migration {
    public function up(): void
    {
        Schema::table('bakes', fn (Blueprint $table) => $table->string('owner', 100)->nullable()->change());
    }

    public function down(): void
    {
        Schema::table('bakes', fn (Blueprint $table) => $table->uuid('owner')->nullable()->change());
    }
};

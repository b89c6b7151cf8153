<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** One setting over several values, each baked aside of the shot: what it tries, of which setting, and whether it is not shown by itself. */
return new class () extends Migration {
    public function up(): void
    {
        Schema::table('bakes', function (Blueprint $table): void {
            $table->string('trial')->nullable();
            $table->string('tries', 500)->nullable();
            $table->boolean('aside')->default(false);
        });
    }

    public function down(): void
    {
        Schema::table('bakes', function (Blueprint $table): void {
            $table->dropColumn(['trial', 'tries', 'aside']);
        });
    }
};

<!DOCTYPE html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>Sign in – Yard Break</title>
    @vite('resources/ts/door.css')
</head>
<body>
<main class="flex h-full flex-col items-center justify-center gap-4">
    <h1 class="text-xl font-semibold">Yard Break</h1>
    <form method="post" action="/sign-in" class="flex w-72 flex-col gap-3 rounded-md border border-line bg-card p-4">
        @csrf
        <input type="hidden" name="to" value="{{ $to }}">
        <label class="flex flex-col gap-1">Name
            <input class="rounded-md border border-line bg-paper px-2 py-1.5" name="name" value="{{ $name }}" autocomplete="username" maxlength="40" required @if ($name === '') autofocus @endif>
        </label>
        <label class="flex flex-col gap-1">Password
            <input class="rounded-md border border-line bg-paper px-2 py-1.5" type="password" name="password" autocomplete="current-password" required @if ($name !== '') autofocus @endif>
        </label>
        @if ($wrong !== null)
            <p role="alert" class="text-error">{{ $wrong }}</p>
        @endif
        <button class="rounded-md bg-teal px-3 py-1.5 font-semibold text-[var(--on-teal)]">Sign in</button>
    </form>
    <p class="w-72 text-ink-2">Names and passwords are given out by whoever runs this server.</p>
</main>
</body>
</html>

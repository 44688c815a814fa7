<template>
  <div class="plain">
    <header>
      <NuxtLink
        to="/"
        class="mark"
      >{{ say('house.lucidRoster') }}</NuxtLink>
      <span class="soft">{{ say('house.ilmaraMaritimeExaminationsBoard') }}</span>
    </header>
    <main>
      <slot />
    </main>
  </div>
</template>

<style scoped>
.plain { min-height: 100vh; }
header { display: flex; gap: 4px 16px; align-items: baseline; flex-wrap: wrap; padding: 14px 24px; border-bottom: 1px solid var(--line); }
.mark { font: 600 20px var(--serif); color: var(--ink); text-decoration: none; }
main { max-width: 720px; margin: 0 auto; padding: 32px 24px; }
</style>

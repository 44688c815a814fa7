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
.mark { display: inline-block; min-height: 24px; font: 600 20px/1.25 var(--serif); color: var(--ink); text-decoration: none; }
main { max-width: 720px; margin: 0 auto; padding: 32px 24px; }
</style>

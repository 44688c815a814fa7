<script setup lang="ts">
const session = useSessionStore()
const router = useRouter()
const areas = [
  { to: '/', title: 'Desk' }, { to: '/notice', title: 'Notice' }, { to: '/roster', title: 'Intake' }, { to: '/scrutiny', title: 'Scrutiny' },
  { to: '/fees', title: 'Fees' }, { to: '/centres', title: 'Centres' }, { to: '/cards', title: 'Cards' }, { to: '/records', title: 'Records' },
]
const route = useRoute()
const here = (to: string) => to === '/' ? route.path === '/' : route.path.startsWith(to) || (to === '/roster' && route.path.startsWith('/intake'))

async function leave() {
  if (await attempt(() => session.signOut())) await router.push('/sign-in')
}
</script>

<template>
  <div class="house">
    <a
      href="#work"
      class="skip"
    >To the work</a>
    <div class="top">
      <HouseBand />
      <nav aria-label="Areas of the work">
        <NuxtLink
          v-for="area in areas"
          :key="area.to"
          :to="area.to"
          :aria-current="here(area.to) ? 'page' : undefined"
        >{{ area.title }}</NuxtLink>
        <div class="right">
          <HouseCommandField />
          <span class="who">{{ session.actor?.name }}</span>
          <button
            class="link"
            @click="leave"
          >
            Sign out
          </button>
        </div>
      </nav>
    </div>
    <p
      v-if="session.expired"
      class="note is-attention"
      role="alert"
    >
      Your session is over. What is on this screen stays here: <a
        href="/sign-in"
        target="_blank"
      >sign in in another tab</a>, then go on.
    </p>
    <main id="work">
      <slot />
    </main>
  </div>
</template>

<style scoped>
.top { position: sticky; top: 0; z-index: 20; background: var(--paper); }
.house { min-height: 100vh; display: flex; flex-direction: column; }
main { flex: 1; display: flex; flex-direction: column; }
nav { display: flex; flex-wrap: wrap; gap: 0 22px; align-items: stretch; padding: 0 24px; border-bottom: 1px solid var(--line); min-height: 46px; }
nav a { display: flex; align-items: center; color: var(--ink-soft); text-decoration: none; border-bottom: 2px solid transparent; padding-top: 2px; min-height: 44px; }
nav a:hover { color: var(--ink); }
nav a[aria-current] { color: var(--ink); font-weight: 600; border-color: var(--accent); }
.right { margin-left: auto; display: flex; gap: 14px; align-items: center; }
.who { font-size: 14px; color: var(--ink-soft); white-space: nowrap; }
.link { font: inherit; font-size: 14px; background: none; border: 0; color: var(--accent); cursor: pointer; text-decoration: underline; text-underline-offset: 3px; padding: 4px; white-space: nowrap; }
.skip { position: absolute; left: -999px; }
.skip:focus { left: 8px; top: 8px; background: var(--sheet); padding: 8px; z-index: 10; }
@media (max-width: 900px), (max-height: 560px) { .top { position: static; } }
@media (max-width: 900px) { nav { padding: 0 16px; gap: 0 16px; } .right { width: 100%; margin: 0; padding-bottom: 8px; } .who { display: none; } }
</style>

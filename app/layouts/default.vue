<script setup lang="ts">
import type { Permission } from '~~/core/access/permissions'

const session = useSessionStore()
const router = useRouter()
const allAreas: { to: string, title: string, needs: Permission }[] = [
  { to: '/', title: say('band.desk'), needs: 'account.own' },
  { to: '/notice', title: say('band.notice'), needs: 'notice.read' },
  { to: '/roster', title: say('band.intake'), needs: 'roster.read' },
  { to: '/scrutiny', title: say('band.scrutiny'), needs: 'scrutiny.read' },
  { to: '/fees', title: say('band.fees'), needs: 'fees.read' },
  { to: '/centres', title: say('band.centres'), needs: 'centres.read' },
  { to: '/cards', title: say('band.cards'), needs: 'cards.read' },
  { to: '/records', title: say('band.records'), needs: 'records.read' },
  { to: '/questions', title: say('band.questions'), needs: 'questions.read' },
  { to: '/letters', title: say('band.letters'), needs: 'letters.read' },
  { to: '/people', title: say('band.people'), needs: 'staff.manage' },
]
const areas = computed(() => allAreas.filter(area => session.may(area.needs)))
const menu = ref(false)
const work = ref<HTMLElement | null>(null)
const route = useRoute()
const here = (to: string) =>
  to === '/' ? route.path === '/' : route.path.startsWith(to) || (to === '/roster' && route.path.startsWith('/intake'))

// After a page was changed the focus is where its work begins, not on the body.
watch(() => route.path, () => {
  menu.value = false
  nextTick(() => {
    if (document.activeElement === document.body || document.activeElement?.closest('nav')) work.value?.focus({ preventScroll: true })
  })
})
async function leave() {
  if (await attempt(() => session.signOut())) await router.push('/sign-in')
}
</script>

<template>
  <div class="house">
    <a
      href="#work"
      class="skip"
    >{{ say('band.toTheWork') }}</a>
    <div class="top">
      <HouseBand :folded="!menu" />
      <button
        type="button"
        class="menu"
        :aria-expanded="menu"
        @click="menu = !menu"
      >
        {{ menu ? say('band.closeTheMenu') : say('band.menu') }}
      </button>
      <nav
        :aria-label="say('band.areasOfTheWork')"
        :class="{ open: menu }"
      >
        <NuxtLink
          v-for="area in areas"
          :key="area.to"
          :to="area.to"
          :aria-current="here(area.to) ? 'page' : undefined"
        >{{ area.title }}</NuxtLink>
        <div class="right">
          <HouseCommandField v-if="session.may('roster.read')" />
          <NuxtLink
            to="/account"
            class="who"
          >{{ session.principal?.name }}</NuxtLink>
          <button
            class="link"
            @click="leave"
          >
            {{ say('band.signOut') }}
          </button>
        </div>
      </nav>
    </div>
    <p
      v-if="session.expired"
      class="note is-attention"
      role="alert"
    >
      {{ say('house.yourSessionIsOverWhatIs') }} <a
        href="/sign-in"
        target="_blank"
      >{{ say('house.signInInAnotherTab') }}</a>{{ say('house.thenGoOn') }}
    </p>
    <main
      id="work"
      ref="work"
      tabindex="-1"
    >
      <slot />
    </main>
  </div>
</template>

<style scoped>
.top { position: sticky; top: 0; z-index: 20; background: var(--paper); border-bottom: 1px solid var(--line); }
.house { min-height: 100vh; display: flex; flex-direction: column; }
main { flex: 1; display: flex; flex-direction: column; }
nav {
  display: flex; flex-wrap: wrap; gap: 0 22px; align-items: stretch; padding: 0 24px; border-bottom: 1px solid var(--line);
  min-height: 46px;
}
nav a {
  display: flex; align-items: center; color: var(--ink-soft); text-decoration: none; border-bottom: 2px solid transparent; padding-top: 2px;
  min-height: 44px;
}
nav a:hover { color: var(--ink); }
nav a[aria-current] { color: var(--ink); font-weight: 600; border-color: var(--accent); }
.right { margin-left: auto; display: flex; gap: 14px; align-items: center; }
.who { font-size: 14px; color: var(--ink-soft); white-space: nowrap; }
.link {
  font: inherit; font-size: 14px; background: none; border: 0; color: var(--accent); cursor: pointer; text-decoration: underline;
  text-underline-offset: 3px; padding: 4px; white-space: nowrap;
}
main:focus { outline: none; }
.menu {
  display: none; font: inherit; font-weight: 600; color: var(--accent); background: none; border: 0; min-height: 44px; padding: 4px 16px;
  cursor: pointer;
}
.skip { position: absolute; left: -999px; }
.skip:focus { left: 8px; top: 8px; background: var(--sheet); padding: 8px; z-index: 10; }
@media (max-width: 900px), (max-height: 560px) { .top { position: relative; } }
@media (max-width: 900px) {
  .menu { display: block; position: absolute; right: 0; top: 4px; }
  nav { display: none; padding: 0 16px; gap: 0 16px; }
  nav.open { display: flex; }
  .right { width: 100%; margin: 0; padding-bottom: 8px; flex-wrap: wrap; }
}
</style>

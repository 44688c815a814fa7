<script setup lang="ts">
/** Pages of candidates: no office, only what is theirs. */
const session = useSessionStore()
const cycle = useCycleStore()
const router = useRouter()
useHead({ link: [{ rel: 'manifest', href: '/app.webmanifest' }] })
// Once the page stands: keeping it costs nothing that somebody waits for.
onMounted(() =>
  setTimeout(() => {
    void useOffline().then(offline => offline.startKeeping({ principal: plain(session.principal), csrfToken: session.csrfToken })).catch(
      () => undefined
    )
  }, 3000)
)
async function leave() {
  if (await attempt(() => session.signOut())) await router.push('/apply')
}
</script>

<template>
  <div class="plain">
    <header>
      <NuxtLink
        to="/own"
        class="mark"
      >{{ say('own.myApplications') }}</NuxtLink>
      <a href="/examinations">{{ say('own.examinations') }}</a>
      <LazyOwnNoticeLanguage v-if="cycle.notice?.translations?.length" />
      <span
        v-if="session.principal"
        class="who small soft"
      ><NuxtLink to="/own/account">{{ say('own.account') }}</NuxtLink> {{ session.principal.name }} <button
        class="press"
        @click="leave"
      >{{ say('own.signOut') }}</button></span>
    </header>
    <p
      v-if="session.expired"
      class="note is-attention"
      role="alert"
    >
      {{ say('house.yourSessionIsOverWhatIs') }} <a
        href="/apply"
        target="_blank"
      >{{ say('house.signInInAnotherTab') }}</a>{{ say('house.thenGoOn') }}
    </p>
    <p
      v-if="keptSince"
      class="note is-attention"
      role="status"
    >
      {{ say('own.asItStood', { at: new Date(keptSince).toLocaleString() }) }}
    </p>
    <main>
      <slot />
    </main>
  </div>
</template>

<style scoped>
/* A face of the machine: on a slow line the house's own would cost a second. */
.plain { --serif: Georgia, 'Noto Serif', serif; min-height: 100vh; display: flex; flex-direction: column; }
header { display: flex; gap: 4px 18px; align-items: baseline; flex-wrap: wrap; padding: 12px 20px; border-bottom: 1px solid var(--line); }
.mark { display: inline-block; min-height: 24px; font: 600 19px/1.3 var(--serif); color: var(--ink); text-decoration: none; }
.who { margin-left: auto; overflow-wrap: anywhere; }
main { flex: 1; display: flex; flex-direction: column; }
</style>

<script setup lang="ts">
import { spellInstant } from '~~/core/calendar/zone'
import { spellAmount } from '~~/core/fees/assess'
import type { OwnApplication, OwnView } from '~~/shared/candidates'

/** All that is mine: my applications with what each needs next, what I can apply for, and what I was told. */
definePageMeta({ layout: 'candidate' })
useHead({ title: titled(say('own.myApplications')) })
const route = useRoute()
const router = useRouter()
const own = shallowRef<OwnView | null>(null)
const { busy, refusal, send } = useSubmission()
// The id is made once and kept until it is answered: a press sent again makes no second application.
const ids = new Map<string, string>()
const wanted = computed(() => own.value?.examinations.find(e => e.code === route.query.examination))
const others = computed(() => own.value?.examinations.filter(e => e !== wanted.value) ?? [])

const begin = (code: string) =>
  send(async () => {
    const id = ids.get(code) ?? crypto.randomUUID()
    ids.set(code, id)
    await callApi(`/api/cycles/${code}/applications/${id}`, { method: 'PUT', body: {} })
    await router.push(`/own/${id}`)
  })
const isOpen = (one: OwnApplication) => one.form === 'drafting' || one.form === 'correcting'
function next(one: OwnApplication): string {
  if (!one.zone) return ''
  if (one.due !== null && one.due > 0 && one.currency && one.lastPayment && (one.form === 'submitted' || one.form === 'drafting')) {
    const open = { due: spellAmount(one.due, one.currency), until: spellInstant(one.lastPayment, one.zone) }
    return one.payer === null ? say('own.toPay', open) : say('own.payerPays', { ...open, payer: one.payer })
  }
  if (one.form === 'drafting' && one.closes) return say('own.notHandedIn', { at: spellInstant(one.closes, one.zone) })
  return ''
}
const zone = computed(() => own.value?.examinations[0]?.zone ?? { name: 'UTC', utcOffsetMinutes: 0 })
const { failure } = useLoaded(async () => {
  own.value = await callApi<OwnView>('/api/own')
  // Where most go on from here: it comes while they read.
  void preloadRouteComponents('/own/next')
})
</script>

<template>
  <div class="own">
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <template v-if="own">
      <section v-if="wanted">
        <p class="note wanted">
          {{ say('own.applyingFor', { title: wanted.title }) }}
          <HouseButton
            primary
            :busy="busy"
            :disabled="!wanted.isOpen"
            @click="begin(wanted.code)"
          >
            {{ say('own.begin') }}
          </HouseButton>
        </p>
      </section>
      <h1>{{ say('own.myApplications') }}</h1>
      <p
        v-if="own.applications.length === 0"
        class="soft"
      >
        {{ say('own.noneYet') }}
      </p>
      <article
        v-for="one in own.applications"
        :key="one.id"
      >
        <p><b>{{ one.name || say('own.withoutAName') }}</b> <span class="soft">{{ one.number }}</span></p>
        <p>{{ one.title }}: <HouseHeadlineMark :headline="one.headline" /></p>
        <p
          v-if="next(one)"
          class="attention"
        >
          {{ next(one) }}
        </p>
        <p class="presses">
          <NuxtLink :to="`/own/${one.id}`">{{ isOpen(one) ? say('own.goOn') : say('own.lookAt') }}</NuxtLink>
          <a
            v-if="one.hasCard"
            :href="`/api/applications/${one.id}/card`"
            target="_blank"
          >{{ say('own.card') }}</a>
        </p>
      </article>
      <LazyOwnTogether
        v-for="one in own.together"
        :key="one.cycle"
        :of="one"
      />
      <h2>{{ say('own.examinations') }}</h2>
      <article
        v-for="one in others"
        :key="one.code"
      >
        <p><b>{{ one.title }}</b> <span class="soft">{{ one.isOpen ? say('own.isOpenUntil', { at: spellInstant(one.closes, one.zone) }) : Date.parse(one.opens) > Date.now() ? say('own.opensAt', { at: spellInstant(one.opens, one.zone) }) : say('own.isClosed') }}</span></p>
        <p class="presses">
          <a :href="`/examinations/${one.code}`">{{ say('own.wholeNotice') }}</a>
          <button
            v-if="one.isOpen"
            class="press"
            :disabled="busy"
            :aria-label="say('own.beginFor', { title: one.title })"
            @click="begin(one.code)"
          >
            {{ say('own.begin') }}
          </button>
        </p>
      </article>
      <h2>{{ say('own.letters') }}</h2>
      <OwnLetters
        :letters="own.letters"
        :zone="zone"
        :contacts="own.contacts"
      />
    </template>
  </div>
</template>

<style scoped>
.own { max-width: 760px; width: 100%; margin: 0 auto; padding: 20px 20px 60px; }
h1 { margin: 8px 0; }
h2 { margin: 28px 0 4px; border-bottom: 1px solid var(--line); padding-bottom: 5px; }
article { border-bottom: 1px solid var(--line); padding: 10px 0; }
.wanted { display: flex; flex-wrap: wrap; gap: 10px 18px; align-items: center; margin-bottom: 22px; }
.presses { display: flex; flex-wrap: wrap; gap: 6px 20px; padding-top: 4px; }
.presses > * { min-height: 26px; }
</style>

<script setup lang="ts">
import type { OwnView } from '~~/shared/candidates'

/** An application as its candidate sees it, with the letters of their account below. */
definePageMeta({ layout: 'looking' })
const route = useRoute()
const session = useSessionStore()
const id = String(route.params.id)
// Before anything below asks the office.
session.looksAs = id
// And before the page that comes next asks, which may stand before this one is gone.
onBeforeRouteLeave(async () => {
  session.looksAs = null
  await cycle.readNoticeAs(null).catch(() => undefined)
})
const own = shallowRef<OwnView | null>(null)
const cycle = useCycleStore()
const { failure } = useLoaded(async () => {
  const got = await callApi<OwnView>('/api/own')
  await cycle.readNoticeAs({ language: got.readsIn })
  own.value = got
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }}
  </p>
  <template v-else-if="own">
    <SheetWhole
      :id="id"
      own
    />
    <section
      v-if="cycle.notice"
      class="page"
    >
      <h2>{{ say('own.letters') }}</h2>
      <OwnLetters
        :letters="own.letters"
        :zone="cycle.notice.body.zone"
        :contacts="own.contacts"
      />
    </section>
  </template>
</template>

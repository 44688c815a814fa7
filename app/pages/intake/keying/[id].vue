<script setup lang="ts">
/** One paper form: keyed a second time, then compared with the paper, then agreed. */
const route = useRoute()
const cycle = useCycleStore()
const spelling = useSpelling()
const keying = useSecondKeying(String(route.params.id))
const { view } = keying
useHead({ title: () => titled(say('keying.titleOf', { number: view.value?.number ?? '' })) })
const { failure, reload } = useLoaded(async () => {
  await Promise.all([keying.load(), cycle.recall()])
})
onBeforeRouteLeave(async () => {
  await keying.save()
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/intake/keying">{{ say('keying.toTheList') }}</NuxtLink>
  </p>
  <template v-else-if="view && cycle.notice">
    <div class="sheet">
      <div class="sheet-row head">
        <div class="body">
          <h1>{{ say('keying.titleOf', { number: view.number }) }}</h1>
          <p class="soft">
            {{ say('keying.meta', { hasMark: String(view.reference !== ''), mark: view.reference, at: spelling.instant(view.receivedAt) }) }} · <NuxtLink to="/intake/keying">
              {{ say('keying.toTheList') }}
            </NuxtLink>
          </p>
        </div>
        <div class="beside" />
      </div>
      <KeyingSecond
        v-if="view.state === 'second'"
        :keying="keying"
        :notice="cycle.notice"
      />
      <KeyingCompare
        v-else-if="view.state === 'differing' || view.state === 'agreed'"
        :view="view"
        :notice="cycle.notice"
        @changed="reload"
      />
      <div
        v-else
        class="sheet-row"
      >
        <div class="body">
          <p>{{ say('keying.sheetFirst', { at: spelling.instant(view.receivedAt) }) }}</p>
          <NuxtLink :to="`/intake/${view.id}`">
            {{ say('keying.toTheForm') }}
          </NuxtLink>
        </div>
        <div class="beside" />
      </div>
    </div>
  </template>
</template>

<style scoped>
.sheet { flex: 1; display: flex; flex-direction: column; }
</style>

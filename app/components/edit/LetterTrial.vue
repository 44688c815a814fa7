<script setup lang="ts">
import type { NoticeLetter } from '~~/core/notice/schema'
import type { LetterTried } from '~~/shared/notice'

/** A letter of the draft as a real person would get it. */
const { draft } = useNoticeEditor()
const cycle = useCycleStore()
const letters = computed((): Partial<NoticeLetter>[] => {
  const held = (draft.document.value as { letters?: unknown } | null)?.letters
  return Array.isArray(held) ? held as Partial<NoticeLetter>[] : []
})
const { valueTitle } = useWords().noticeParts
const [chosen, number] = [ref(0), ref('')]
const seen = shallowRef<LetterTried | null>(null)
const { busy, refusal, send } = useSubmission()
const look = () =>
  send(async () => {
    seen.value = null
    seen.value = await callApi<LetterTried>(cycle.path('letters/try'), {
      method: 'POST',
      body: { letter: letters.value[chosen.value], number: number.value },
    })
  })
watch([chosen, letters], () => {
  seen.value = null
})
</script>

<template>
  <section v-if="letters.length > 0 && cycle.code">
    <h2 class="section-title">
      {{ say('edit.tryALetter') }}
    </h2>
    <div class="row">
      <ElSelect
        v-model="chosen"
        :aria-label="say('edit.whichLetter')"
        style="width: 260px"
      >
        <ElOption
          v-for="(letter, i) in letters"
          :key="i"
          :value="i"
          :label="letter.act ? valueTitle(letter.act) : say('edit.entryNumber', { n: i + 1 })"
        />
      </ElSelect>
      <ElInput
        v-model="number"
        :aria-label="say('edit.numberOfPerson', { cycle: cycle.code })"
        :placeholder="say('edit.numberOfPerson', { cycle: cycle.code })"
        style="width: 260px"
        @keydown.enter="look"
      />
      <ElButton
        :loading="busy"
        :disabled="number.trim() === ''"
        @click="look"
      >
        {{ say('edit.readIt') }}
      </ElButton>
    </div>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <div
      v-if="seen"
      class="note"
      role="status"
    >
      <p><b>{{ seen.subject }}</b></p>
      <p class="text">
        {{ seen.body }}
      </p>
      <p class="soft small">
        {{ say('edit.toTelephone', { text: seen.toTelephone, messages: seen.messages, units: seen.units, alphabet: seen.alphabet }) }}
      </p>
      <p
        v-if="!seen.isTold"
        class="soft small"
      >
        {{ say('edit.notToldYet') }}
      </p>
    </div>
  </section>
</template>

<style scoped>
section { padding: 4px 0 12px; }
.row { display: flex; flex-wrap: wrap; gap: 6px 12px; padding: 4px 0; }
.text { white-space: pre-line; }
</style>

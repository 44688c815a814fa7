<script setup lang="ts">
import '~/words/later'
import type { Answer } from '~~/core/application/answers'
import type { EarlierForm } from '~~/shared/earlier'

/** What the account has given in an earlier form: looked through, and taken over where it still holds. */
const props = defineProps<{ id: string, take: (question: string, answer: Answer) => void }>()
const emit = defineEmits<{ changed: [], close: [] }>()
const spelling = useSpelling()
const forms = shallowRef<EarlierForm[]>([])
const chosen = ref('')
const left = ref<Record<string, boolean>>({})
const address = `/api/applications/${props.id}/earlier`
const { failure } = useLoaded(async () => {
  forms.value = await callApi<EarlierForm[]>(address)
  chosen.value = forms.value[0]?.id ?? ''
})
const form = computed(() => forms.value.find(one => one.id === chosen.value))
const answers = computed(() => Object.entries(form.value?.answers ?? {}))
const offered = computed(() => [
  ...answers.value.map(([id, answer]) => ({ id, label: spelling.item(id), value: spelling.answer(id, answer) })),
  ...form.value?.files.map(id => ({ id, label: say('parts.earlierFile'), value: spelling.item(id) })) ?? [],
])
const { busy, refusal, send } = useSubmission()
const takeOver = () =>
  send(async () => {
    const taken = answers.value.filter(([question]) => !left.value[question])
    const files = (form.value?.files ?? []).filter(slot => !left.value[slot])
    for (const [question, answer] of taken) props.take(question, answer)
    for (const slot of files) await callApi(`${address}/files`, { method: 'POST', body: { from: chosen.value, slot } })
    tell(say('parts.tookOver', { answers: taken.length, files: files.length }))
    if (files.length > 0) emit('changed')
    emit('close')
  })
</script>

<template>
  <div class="note earlier">
    <h2>{{ say('sheet.earlier') }}</h2>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <FieldChoice
      v-if="forms.length > 1"
      v-model="chosen"
      :options="forms.map(one => ({ id: one.id, title: `${one.name || one.number}, ${one.title}` }))"
      :label="say('parts.earlierForm')"
    />
    <template v-if="form">
      <p class="soft small">
        {{ say('parts.earlierFrom', { number: form.number, title: form.title, at: spelling.instant(form.submittedAt) }) }}
      </p>
      <ul class="options">
        <li
          v-for="one in offered"
          :key="one.id"
        >
          <label><input
            type="checkbox"
            :checked="!left[one.id]"
            @change="left[one.id] = !left[one.id]"
          ><span><span class="soft small">{{ one.label }}</span><br>{{ one.value }}</span></label>
        </li>
      </ul>
      <p>{{ say('parts.earlierHelp') }}</p>
      <HouseButton
        primary
        :busy="busy"
        @click="takeOver"
      >
        {{ say('parts.takeOver') }}
      </HouseButton>
      <HouseButton @click="emit('close')">
        {{ say('parts.notYet') }}
      </HouseButton>
    </template>
  </div>
</template>

<style scoped>
h2 { margin: 0 0 4px; font-size: 18px; }
ul {
  list-style: none; margin: 8px 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(240px, 1fr)); gap: 6px 16px;
}
li { overflow-wrap: anywhere; }
</style>

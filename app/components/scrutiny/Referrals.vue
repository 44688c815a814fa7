<script setup lang="ts">
import { desks, type Desk } from '~~/core/application/open-matters'
import type { Dossier } from '~~/shared/applications'

/** Questions to desks of the office, with their answers; a way to ask, and to answer. */
const props = defineProps<{ dossier: Dossier }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const spelling = useSpelling()
const { deskWords } = useWords().scrutiny
const { busy, perform } = useAct(props.dossier.id, dossier => emit('changed', dossier))
const desk = ref<Desk>('officer')
const text = ref('')
const isAsking = ref(false)
const mayAsk = computed(() => canAct(props.dossier, 'refer'))
const mayAnswer = computed(() => canAct(props.dossier, 'answer-referral'))
async function send(act: 'refer' | 'answer-referral') {
  if (!await perform(act, act === 'refer' ? { reason: text.value, desk: desk.value } : { reason: text.value })) return
  text.value = ''
  isAsking.value = false
}
</script>

<template>
  <template v-if="dossier.referrals.length > 0">
    <h3>{{ say('scrutiny.questionsToDesks') }}</h3>
    <div
      v-for="one in dossier.referrals"
      :key="one.at"
      class="small one"
    >
      <span class="soft">{{ say('scrutiny.deskAsked', { desk: deskWords[one.desk], by: one.by, at: spelling.instant(one.at) }) }}</span> {{ one.question }}
      <p v-if="one.answer">
        <b>{{ one.answer }}</b> <span class="soft">{{ say('scrutiny.answeredBy', { by: one.answeredBy ?? '', at: spelling.instant(one.answeredAt) }) }}</span>
      </p>
    </div>
  </template>
  <form
    v-if="mayAnswer"
    @submit.prevent="send('answer-referral')"
  >
    <input
      v-model="text"
      class="field"
      maxlength="1000"
      :placeholder="say('scrutiny.theAnswer')"
      :aria-label="say('scrutiny.theAnswer')"
    >
    <ElButton
      native-type="submit"
      :loading="busy"
      :disabled="text.trim().length < 3"
    >
      {{ say('scrutiny.answerForTheDesk') }}
    </ElButton>
  </form>
  <template v-else-if="mayAsk">
    <button
      v-if="!isAsking"
      type="button"
      class="press small ask"
      @click="isAsking = true"
    >
      {{ say('scrutiny.askADesk') }}
    </button>
    <form
      v-else
      @submit.prevent="send('refer')"
    >
      <select
        v-model="desk"
        class="field"
        :aria-label="say('scrutiny.desk')"
      >
        <option
          v-for="one in desks"
          :key="one"
          :value="one"
        >
          {{ deskWords[one] }}
        </option>
      </select>
      <input
        v-model="text"
        class="field"
        maxlength="1000"
        :placeholder="say('scrutiny.theQuestion')"
        :aria-label="say('scrutiny.theQuestion')"
      >
      <ElButton
        native-type="submit"
        :loading="busy"
        :disabled="text.trim().length < 3"
      >
        {{ say('scrutiny.askADesk') }}
      </ElButton>
    </form>
  </template>
</template>

<style scoped>
form { display: flex; flex-wrap: wrap; gap: 8px; margin: 8px 0; }
.field { flex: 1; min-width: 160px; }
.one { padding: 4px 0; }
.ask { display: block; margin-top: 10px; }
</style>

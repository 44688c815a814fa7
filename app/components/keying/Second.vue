<script setup lang="ts">
import { liveSheet } from '~~/core/application/answers'
import { sheetFaults } from '~~/core/application/sheet'
import { dateInZone } from '~~/core/calendar/zone'
import type { Notice } from '~~/core/notice/schema'

/**
 * A paper form keyed a second time, from the paper alone. What is wrong with what stands there is said beside it, so that a slip of the
 * finger is seen; it stops nobody.
 */
const props = defineProps<{ keying: ReturnType<typeof useSecondKeying>, notice: Notice }>()
const { view, answers, savedAt, trouble } = props.keying
const live = computed(() => liveSheet(props.notice, answers.value))
const asked = computed(() => new Map(live.value.asked.map(question => [question.id, question])))
const sections = computed(() =>
  props.notice.sections.map(section => ({ ...section, questions: section.questions.flatMap(({ id }) => asked.value.get(id) ?? []) }))
    .filter(section => section.questions.length > 0)
)
const faults = computed(() =>
  sheetFaults(props.notice, answers.value, dateInZone(new Date(), props.notice.body.zone)).filter(fault => fault.code !== 'sheet.missing')
)
const isEmpty = computed(() => Object.values(answers.value).every(answer => answer.length === 0))
const { busy, perform } = useAct(view.value?.id ?? '', () => undefined)

async function finish() {
  if (!await props.keying.save()) return
  if (await perform('finish-second-keying')) await attempt(keyNext)
}
onMounted(() => document.querySelector<HTMLElement>('.question input, .question select, .question textarea')?.focus())
</script>

<template>
  <div class="sheet-row">
    <div class="body">
      <p class="note">
        <b>{{ say('keying.secondTitle') }}.</b> {{ say('keying.secondHelp') }}
      </p>
    </div>
    <div class="beside" />
  </div>
  <template
    v-for="section in sections"
    :key="section.id"
  >
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ section.title }}
        </h2>
      </div>
      <div class="beside" />
    </div>
    <div
      v-for="question in section.questions"
      :key="question.id"
      class="sheet-row"
    >
      <div class="body">
        <SheetQuestionField
          :question="question"
          :notice="notice"
          :answer="answers[question.id]"
          :readonly="false"
          :flawed="faults.some(fault => fault.about === question.id)"
          @change="keying.change(question.id, $event)"
        />
      </div>
      <div class="beside">
        <template
          v-for="fault in faults.filter(one => one.about === question.id)"
          :key="fault.code"
        >
          <HouseFindingNote :finding="fault" />
          <p class="soft small">
            {{ say('keying.asTyped') }}
          </p>
        </template>
      </div>
    </div>
  </template>
  <div class="sheet-row rest">
    <div class="body" /><div class="beside" />
  </div>
  <div class="action-bar">
    <span :class="{ attention: trouble !== '' }"><b v-if="savedAt">{{ say('keying.saved', { time: savedAt.toTimeString().slice(0, 8) }) }}</b> <span class="small">{{ trouble }}</span></span>
    <HouseButton
      class="push"
      primary
      :busy="busy"
      :disabled="isEmpty"
      @click="finish"
    >
      {{ say('keying.finish') }}
    </HouseButton>
  </div>
</template>

<style scoped>
.rest { flex: 1; }
</style>

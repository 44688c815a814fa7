<script setup lang="ts">
import '~/words/later'
import { correctionPeriod, ruleOfItem, rulesFor } from '~~/core/application/corrections'
import { isAnswered, liveSheet, type Answers } from '~~/core/application/answers'
import type { Notice } from '~~/core/notice/schema'

/** What is handed in, said back: what stands for good first, then what may be corrected, with its time. */
const props = defineProps<{ id: string, notice: Notice, answers: Answers, own?: boolean }>()
const spelling = useSpelling()
const groups = computed(() => {
  const rules = rulesFor(props.notice, props.own ? 'candidate' : 'office')
  const titled = new Map<string, { label: string, value: string }[]>([[say('parts.frozenForGood'), []]])
  for (const { id, label } of liveSheet(props.notice, props.answers).asked) {
    if (!isAnswered(props.answers, id)) continue
    const rule = ruleOfItem(props.notice, rules, id)
    const period = rule && correctionPeriod(props.notice, rule)
    const title = period
      ? say('parts.correctableLater', {
        hasOpens: String(period.opens > new Date()),
        opens: spelling.instant(period.opens.toISOString()),
        closes: spelling.instant(period.closes.toISOString()),
      })
      : say('parts.frozenForGood')
    titled.set(title, [...titled.get(title) ?? [], { label, value: spelling.answer(id, props.answers[id]) }])
  }
  return [...titled].filter(([, lines]) => lines.length > 0)
})
</script>

<template>
  <section>
    <h3>{{ say('parts.readBack') }}</h3>
    <p class="soft small">
      {{ say('parts.readBackHelp') }} <a
        :href="`/api/applications/${id}/form`"
        target="_blank"
      >{{ say('parts.asItPrints') }}</a>
    </p>
    <div
      class="scroll"
      tabindex="0"
      role="group"
      :aria-label="say('parts.readBack')"
    >
      <template
        v-for="[title, lines] in groups"
        :key="title"
      >
        <p><b>{{ title }}</b></p>
        <dl>
          <template
            v-for="line in lines"
            :key="line.label"
          >
            <dt>{{ line.label }}</dt><dd>{{ line.value }}</dd>
          </template>
        </dl>
      </template>
    </div>
  </section>
</template>

<style scoped>
h3 { margin: 0; }
.scroll { max-height: 34vh; overflow-y: auto; border: 1px solid var(--line); padding: 8px 12px; margin: 4px 0 16px; }
dl { display: grid; grid-template-columns: minmax(0, 2fr) minmax(0, 3fr); gap: 2px 16px; margin: 2px 0 10px; }
dt { color: var(--ink-soft); }
dd { margin: 0; overflow-wrap: anywhere; }
</style>

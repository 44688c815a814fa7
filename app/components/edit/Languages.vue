<script setup lang="ts">
import { isLanguageTag, languageName, textsToRead, type Translation } from '~~/core/notice/languages'

/** For each language of the notice: how many of its texts lack, and rows for them to be filled in. */
const { draft } = useNoticeEditor()
const wanted = computed(() => textsToRead(draft.document.value))
const translations = computed((): Translation[] => {
  const held = (draft.document.value as { translations?: unknown } | null)?.translations
  return Array.isArray(held)
    ? (held as Partial<Translation>[]).map(one => ({ language: one.language ?? '', texts: Array.isArray(one.texts) ? one.texts : [] }))
    : []
})
const rows = computed(() =>
  translations.value.map(({ language, texts }) => {
    const known = new Set(texts.map(one => one.text))
    const done = texts.filter(one => wanted.value.includes(one.text) && one.as.trim() !== '').length
    return {
      language,
      done,
      lacks: wanted.value.filter(text => !known.has(text)),
      idle: texts.filter(one => !wanted.value.includes(one.text)).length,
    }
  })
)
/** Rows in the order of the notice: what lacks comes with an empty translation, what stands nowhere any more goes. */
function fill(place: number) {
  const texts = translations.value[place]?.texts ?? []
  draft.set(`/translations/${place}/texts`, wanted.value.map(text => texts.find(one => one.text === text) ?? { text, as: '' }))
}
const put = (place: number, row: number, as: string) => draft.set(`/translations/${place}/texts/${row}/as`, as)
const takeOut = (place: number) => draft.set('/translations', translations.value.filter((_, i) => i !== place))
/** A column of a spreadsheet fills the rows from here on; a line break within one text stays in it. */
function paste(event: ClipboardEvent, place: number, row: number) {
  const lines = event.clipboardData?.getData('text/plain').replace(/\r?\n$/, '').split(/\r?\n/) ?? []
  const texts = translations.value[place]?.texts ?? []
  if (lines.length < 2 || texts[row]?.text.includes('\n')) return
  event.preventDefault()
  draft.set(`/translations/${place}/texts`, texts.map((one, i) => ({ ...one, as: lines[i - row] ?? one.as })))
}
const tag = ref('')
const isNew = computed(() => isLanguageTag(tag.value.trim()) && !translations.value.some(one => one.language === tag.value.trim()))
/** A language with a row for each text. */
function add() {
  const held = (draft.document.value as { translations?: unknown[] } | null)?.translations ?? []
  draft.set('/translations', [...held, { language: tag.value.trim(), texts: wanted.value.map(text => ({ text, as: '' })) }])
  tag.value = ''
}
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('edit.otherLanguages') }}
    </h2>
    <p class="soft small">
      {{ say('edit.languagesHelp') }}
    </p>
    <details
      v-for="(row, i) in rows"
      :key="i"
      :open="rows.length === 1"
    >
      <summary><b>{{ row.language ? languageName(row.language) : say('edit.languageWithoutTag') }}</b>: {{ say('edit.translatedOf', { done: row.done, all: wanted.length }) }}</summary>
      <p>
        <button
          v-if="row.lacks.length + row.idle > 0"
          class="press"
          @click="fill(i)"
        >
          {{ say('edit.fillInTexts', { lacks: row.lacks.length, idle: row.idle }) }}
        </button>
        <button
          class="press"
          :aria-label="say('edit.takeOutPart', { part: languageName(row.language) })"
          @click="takeOut(i)"
        >
          {{ say('edit.takeOut') }}
        </button>
      </p>
      <table class="plain-table">
        <thead><tr><th>{{ say('edit.asWritten') }}</th><th>{{ languageName(row.language) }}</th></tr></thead>
        <tbody>
          <tr
            v-for="(one, k) in translations[i]?.texts"
            :key="one.text"
          >
            <td>{{ one.text }}</td><td>
              <textarea
                :value="one.as"
                :lang="row.language"
                :rows="Math.max(1, Math.ceil(Math.max(one.text.length, one.as.length) / 46))"
                :aria-label="say('edit.translationOf', { text: one.text })"
                @change="event => put(i, k, (event.target as HTMLTextAreaElement).value)"
                @paste="event => paste(event, i, k)"
              />
              <EditFindings :at="`/translations/${i}/texts/${k}`" />
            </td>
          </tr>
        </tbody>
      </table>
      <EditFindings :at="`/translations/${i}/language`" />
    </details>
    <p class="add">
      <ElInput
        v-model="tag"
        :aria-label="say('edit.languageTag')"
        :placeholder="say('edit.languageTag')"
        maxlength="35"
        style="width: 210px"
        @keydown.enter="isNew && add()"
      />
      <ElButton
        :disabled="!isNew"
        @click="add"
      >
        {{ say('edit.addLanguage', { language: isNew ? languageName(tag.trim()) : '' }) }}
      </ElButton>
    </p>
  </section>
</template>

<style scoped>
section { padding: 4px 0 12px; }
summary { cursor: pointer; padding: 4px 0; }
details > p { display: flex; gap: 16px; }
td { width: 50%; vertical-align: top; overflow-wrap: anywhere; }
textarea {
  width: 100%; font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--line-strong); padding: 3px 6px;
  resize: vertical;
}
.add { display: flex; flex-wrap: wrap; gap: 6px 12px; padding-top: 6px; }
</style>

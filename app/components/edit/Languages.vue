<script setup lang="ts">
import { isLanguageTag, languageName, textsToRead, type Translation } from '~~/core/notice/languages'

/** For each language of the notice: how many of its texts lack, and rows for them to be filled in. */
const { draft } = useNoticeEditor()
const wanted = computed(() => textsToRead(draft.document.value))
const translations = computed((): Translation[] => {
  const held = (draft.document.value as { translations?: unknown } | null)?.translations
  return Array.isArray(held) ? (held as Partial<Translation>[]).map(one => ({ language: one.language ?? '', texts: Array.isArray(one.texts) ? one.texts : [] })) : []
})
const rows = computed(() => translations.value.map(({ language, texts }) => {
  const known = new Set(texts.map(one => one.text))
  const done = texts.filter(one => wanted.value.includes(one.text) && one.as.trim() !== '').length
  return { language, done, lacks: wanted.value.filter(text => !known.has(text)), idle: texts.filter(one => !wanted.value.includes(one.text)).length }
}))
/** Rows in the order of the notice: what lacks comes with an empty translation, what stands nowhere any more goes. */
function fill(place: number) {
  const texts = translations.value[place]?.texts ?? []
  draft.set(`/translations/${place}/texts`, wanted.value.map(text => texts.find(one => one.text === text) ?? { text, as: '' }))
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
    <p class="soft small">
      {{ say('edit.languagesHelp') }}
    </p>
    <p
      v-for="(row, i) in rows"
      :key="i"
    >
      <b>{{ row.language ? languageName(row.language) : say('edit.languageWithoutTag') }}</b>: {{ say('edit.translatedOf', { done: row.done, all: wanted.length }) }}
      <button
        v-if="row.lacks.length + row.idle > 0"
        class="press"
        @click="fill(i)"
      >
        {{ say('edit.fillInTexts', { lacks: row.lacks.length, idle: row.idle }) }}
      </button>
    </p>
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
.add { display: flex; flex-wrap: wrap; gap: 6px 12px; padding-top: 6px; }
</style>

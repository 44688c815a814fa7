<script setup lang="ts">
import '~/words/later'
import { languageName } from '~~/core/notice/languages'

/** What was accepted for an application, each text as it read then. */
const props = defineProps<{ id: string }>()
const { got, failure } = useTexts(props.id)
const spelling = useSpelling()
</script>

<template>
  <section class="accepted">
    <h2 class="section-title">
      {{ say('sheet.acceptedTexts') }}
    </h2>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p v-if="got?.accepted.length === 0">
      {{ say('parts.acceptedNone') }}
    </p>
    <details
      v-for="(one, i) in got?.accepted"
      :key="i"
    >
      <summary>
        <b>{{ one.title || say('parts.declaration') }}</b>
        <span class="soft small block">{{ say('parts.acceptedAs', { at: spelling.instant(one.at), hasBy: String(one.by !== ''), by: one.by, version: one.noticeVersion, language: languageName(one.language), signed: one.signed }) }}</span>
      </summary>
      <p class="words">
        {{ one.text }}
      </p>
      <p class="soft small hash">
        {{ say('parts.acceptedHash', { sha256: one.sha256 }) }}
      </p>
    </details>
  </section>
</template>

<style scoped>
.accepted { margin-bottom: 16px; }
summary { padding: 6px 0; cursor: pointer; }
.block { display: block; padding-left: 16px; }
.words { white-space: pre-wrap; max-width: 70ch; padding: 4px 0 4px 16px; }
.hash { overflow-wrap: anywhere; padding-left: 16px; }
</style>

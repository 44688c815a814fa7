<script setup lang="ts" generic="P extends { applicationId: string, number: string, name: string }">
/** Whose parts of a sum are which; of many, the first and the rest on demand. */
const props = defineProps<{ parts: readonly P[] }>()
defineSlots<{ default: (of: { part: P }) => unknown }>()
const shownFirst = 8
const groups = computed(() => [props.parts.slice(0, shownFirst), props.parts.slice(shownFirst)])
const isOpen = ref(false)
</script>

<template>
  <template
    v-for="(group, place) in groups"
    :key="place"
  >
    <template v-if="place === 0 || isOpen">
      <p
        v-for="part in group"
        :key="part.applicationId"
      >
        <NuxtLink :to="`/intake/${part.applicationId}`">{{ part.name }}</NuxtLink> <span class="soft small">{{ part.number }}</span>
        · <slot :part="part" />
      </p>
    </template>
    <p v-else-if="group.length > 0">
      <button
        type="button"
        class="press small"
        @click="isOpen = true"
      >
        {{ say('bank.partsMore', { count: group.length }) }}
      </button>
    </p>
  </template>
</template>

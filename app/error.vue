<script setup lang="ts">
import type { NuxtError } from '#app'

/** Where nothing is, or something failed in the page. */
const props = defineProps<{ error: NuxtError }>()
const missing = computed(() => props.error.statusCode === 404)
useHead({ title: () => missing.value ? titled(say('house.nothingHere')) : titled(say('house.somethingFailed')) })
const back = () => clearError({ redirect: '/' })
</script>

<template>
  <main class="fault">
    <p class="mark">
      {{ say('house.lucidRoster') }}
    </p>
    <h1>{{ missing ? say('house.thereIsNothingAtThisAddress') : say('house.somethingFailedInThisPage') }}</h1>
    <p>{{ missing ? say('house.theLinkMayBeCutShort') : say('house.whatWasSavedIsSafeLoad') }}</p>
    <p class="acts">
      <button
        type="button"
        @click="back"
      >
        {{ say('house.toTheDesk') }}
      </button>
      <a href="/check">{{ say('house.checkAnAdmitCard') }}</a>
    </p>
  </main>
</template>

<style scoped>
.fault { max-width: 560px; margin: 12vh auto 0; padding: 24px; }
.mark { font: 600 20px var(--serif); margin-bottom: 24px; }
h1 { margin-bottom: 12px; }
.acts { display: flex; gap: 20px; align-items: center; margin-top: 20px; }
button {
  font: 600 16px var(--sans); color: var(--on-accent); background: var(--accent); border: 0; border-radius: var(--radius);
  padding: 10px 18px; cursor: pointer;
}
</style>

<script setup lang="ts">
/**
 * A button of pages that candidates reach: the browser's own, dressed by house.css. The interface library's brings twelve kilobytes with it
 * (its colours, its form), a quarter of a second on a slow line; pages of the office have the library anyway, and theirs looks the same.
 */
withDefaults(
  defineProps<
    {
      primary?: boolean,
      small?: boolean,
      busy?: boolean,
      disabled?: boolean,
      type?: 'button' | 'submit',
      /** It leads there, in a tab of its own. */
      href?: string,
    }
  >(),
  { type: 'button', href: undefined },
)
</script>

<template>
  <a
    v-if="href"
    class="button"
    :class="{ 'is-primary': primary, 'is-small': small }"
    :href="href"
    target="_blank"
  ><slot /></a>
  <button
    v-else
    class="button"
    :class="{ 'is-primary': primary, 'is-small': small }"
    :type="type"
    :disabled="disabled || busy"
    :aria-busy="busy || undefined"
  >
    <slot />
  </button>
</template>

<script setup lang="ts">
definePageMeta({ redirect: '/library' })
</script>

<template>
  <div />
</template>

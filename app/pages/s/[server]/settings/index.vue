<template>
  <NoSettings />
</template>

export { isLanguage, languageOfPath, plainPathOf, type LanguageFacts } from './languages-in'
export { languageGroups, languagesOf, standingOf, type LanguageGroup, type LanguageMember, type Standing } from './groups'

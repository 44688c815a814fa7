/** Character sets that are told apart or may be chosen; those of the WHATWG Encoding Standard. */
export const charsets = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252', 'iso-8859-1', 'iso-8859-2', 'iso-8859-15', 'windows-1250',
  'windows-1251', 'windows-1256', 'koi8-r', 'gb18030', 'shift_jis', 'big5', 'euc-kr'] as const

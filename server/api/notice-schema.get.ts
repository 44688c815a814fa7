import { noticeJsonSchema } from '../../core/notice/form'
import { route } from '../http/handle'

/** The JSON Schema of a notice's file, for whoever writes one: the form of files is no secret. */
export default route(() => noticeJsonSchema())

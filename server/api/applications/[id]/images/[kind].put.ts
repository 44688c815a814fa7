import { putFile } from '../../../../http/put-file'

export default putFile(false)

import { PRODUCTION } from '../production';
import { runCommand } from '../run';

/* Where a release's commands begin. */
runCommand(PRODUCTION);

/** What is asked and what is answered: records only (access-model.md, sections 6 to 9). */
@NullMarked
package mandala.core.question;

import org.jspecify.annotations.NullMarked;

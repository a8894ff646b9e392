/**
 * The rules of the access model, one in each file, plain rather than fast; each has a specification
 * of its name among the tests. Whatever explains or edits access uses them. The compiled engine and
 * the naive reference are the two other readings (decision 001).
 */
@NullMarked
package mandala.core.rule;

import org.jspecify.annotations.NullMarked;

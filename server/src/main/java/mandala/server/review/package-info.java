/**
 * Reviews: rounds are made and run ({@link mandala.server.review.RoundDesk}), reviewers decide
 * ({@link mandala.server.review.DecisionDesk}) with evidence in front of them.
 */
@NullMarked
package mandala.server.review;

import org.jspecify.annotations.NullMarked;

/**
 * What reviewers decide about: things that can be removed, what a removal really takes from whom,
 * what is recommended, and who decides. Entry points: {@link mandala.core.review.ReviewItems},
 * {@link mandala.core.review.ItemStudy}, {@link mandala.core.review.Deciders}.
 */
@NullMarked
package mandala.core.review;

import org.jspecify.annotations.NullMarked;

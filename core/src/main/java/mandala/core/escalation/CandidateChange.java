package mandala.core.escalation;

import mandala.core.change.Change;
import org.jspecify.annotations.Nullable;

/**
 * A change that could bring somebody nearer to a goal.
 *
 * @param least how many changes it takes at least until the goal is reached by this line, this one
 *     included; at least 1
 * @param instead names changes of which one that reaches the goal is enough, the narrowest first;
 *     null where it stands for itself
 */
record CandidateChange(Change change, int least, @Nullable String instead) {}

package mandala.core.model;

import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;

/** A principal has switched a just-in-time assignment on; its window must have an end. */
public record Activation(
    About about, PrincipalKey principal, AssignmentKey assignment, Window window)
    implements Thing {}

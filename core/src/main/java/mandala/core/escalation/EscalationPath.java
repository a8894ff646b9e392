package mandala.core.escalation;

import java.util.List;
import mandala.core.authority.RequiredRight;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.model.key.PrincipalKey;

/**
 * How somebody could get an access: what to do one after the other, each in the model that the one
 * before leaves.
 *
 * @param who does all of it
 */
public record EscalationPath(PrincipalKey who, List<Step> steps) {

  /** Copies its steps. */
  public EscalationPath {
    steps = List.copyOf(steps);
  }

  /** One thing to do. */
  public sealed interface Step {

    /**
     * Makes a change of the model.
     *
     * @param uses what the change asks for, and the author has; none where it is the author's own
     *     affair
     * @param reasons why a second person must approve, none where nobody must
     * @param approvers who could, where somebody must; never empty then
     */
    record Makes(
        Change change,
        List<RequiredRight> uses,
        List<SecondApproval.Reason> reasons,
        List<PrincipalKey> approvers)
        implements Step {
      /** Copies its lists. */
      public Makes {
        uses = List.copyOf(uses);
        reasons = List.copyOf(reasons);
        approvers = List.copyOf(approvers);
      }
    }

    /** Signs in with a second factor, which is enrolled already. */
    record SignsIn() implements Step {}

    /** Acts for somebody who has it. */
    record ActsFor(PrincipalKey whom) implements Step {}
  }

  /** {@return the changes of the model}, in their order */
  public List<Change> changes() {
    return steps.stream()
        .filter(Step.Makes.class::isInstance)
        .map(it -> ((Step.Makes) it).change())
        .toList();
  }

  /** {@return how many of its steps ask for a second person} */
  public long approvals() {
    return steps.stream()
        .filter(it -> it instanceof Step.Makes makes && !makes.reasons().isEmpty())
        .count();
  }
}

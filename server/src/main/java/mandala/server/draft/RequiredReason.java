package mandala.server.draft;

import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What a draft must say of itself by the policy of the root accounts that it changes.
 *
 * @param reason whether why it is made, {@code reference} the ticket or order behind it
 */
record RequiredReason(boolean reason, boolean reference) {

  /** {@return what the policies of the accounts that a draft names ask for} */
  static RequiredReason of(DraftReview review, Map<String, ApprovalPolicy.Rule> policy) {
    Set<ApprovalPolicy.Rule> rules =
        review
            .roots()
            .map(root -> policy.getOrDefault(root, ApprovalPolicy.Rule.NONE))
            .collect(Collectors.toSet());
    return new RequiredReason(
        rules.stream().anyMatch(ApprovalPolicy.Rule::reason),
        rules.stream().anyMatch(ApprovalPolicy.Rule::reference));
  }
}

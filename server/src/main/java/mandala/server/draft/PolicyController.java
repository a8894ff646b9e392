package mandala.server.draft;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import java.util.List;
import java.util.Map;
import mandala.core.model.Account;
import mandala.core.model.Key;
import mandala.core.model.Supplied;
import mandala.server.access.Look;
import mandala.server.access.Sights;
import mandala.server.platform.Problem;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** When a second person must approve a draft, besides what section 11 asks for. */
@RestController
@RequestMapping("/api/settings/approval")
class PolicyController {

  private final ApprovalPolicy policy;
  private final Sights sights;
  private final Trail trail;
  private final Trace trace;
  private final TransactionTemplate transactions;

  PolicyController(
      ApprovalPolicy policy,
      Sights sights,
      Trail trail,
      Trace trace,
      TransactionTemplate transactions) {
    this.policy = policy;
    this.sights = sights;
    this.trail = trail;
    this.trace = trace;
    this.transactions = transactions;
  }

  /**
   * The policy of a root account.
   *
   * @param people how many people one person alone may give or take rights; null for any number
   * @param mine whether the viewer may change it
   */
  record ApprovalRule(String account, String name, @Nullable Integer people, boolean mine) {}

  /** The policies of the root accounts that the viewer may read. */
  record ApprovalRules(List<ApprovalRule> rules) {}

  @GetMapping
  ApprovalRules rules() {
    Look look = sights.look();
    Map<String, Integer> people = policy.people();
    return new ApprovalRules(
        look.state().engine().catalogue().accounts().values().stream()
            .filter(it -> it.parent() == null && look.sight().mayRead(it.key()))
            .map(it ->
                new ApprovalRule(
                    it.key().value(),
                    it.about().nameOr(it.key()),
                    people.get(it.key().value()),
                    may(it.key(), look)))
            .toList());
  }

  private static boolean may(Key.Account root, Look look) {
    return look.sight().may(Supplied.SETTINGS_MANAGE, Key.Resource.of(root));
  }

  /** How many people one person alone may give or take rights; null for any number. */
  record ApprovalLimit(@Nullable @Min(0) @Max(1_000_000) Integer people) {}

  @PutMapping("/{account}")
  ApprovalRules set(@PathVariable String account, @Valid @RequestBody ApprovalLimit limit) {
    Look look = sights.look();
    Account root = look.state().engine().catalogue().accounts().get(new Key.Account(account));
    if (root == null || !look.sight().mayRead(root.key())) {
      throw Problem.notFound("There is no account '" + account + "'.");
    }
    if (root.parent() != null) {
      throw Problem.badRequest(
          "'" + account + "' is part of another account",
          "The policy belongs to the account at the top. Open that one.");
    }
    if (!may(root.key(), look)) {
      throw Problem.forbidden(
          "To change this policy you need “Manage settings” on "
              + root.about().nameOr(root.key())
              + ". Ask its owner, or show your second factor.");
    }
    transactions.executeWithoutResult(_ -> {
      policy.set(root.key(), limit.people());
      trail.write(
          List.of(
              trace.by(
                  Happening.Act.CHANGED,
                  List.of(account),
                  limit.people() == null
                      ? "Policy: any number of people may be concerned without a second person"
                      : "Policy: a second person approves what concerns more than "
                          + limit.people()
                          + " people")));
    });
    return rules();
  }
}

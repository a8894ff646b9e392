package mandala.server.draft;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import java.util.List;
import java.util.Map;
import mandala.core.model.Account;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
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
  private final RequestContexts contexts;
  private final Trail trail;
  private final AuditContext auditContext;
  private final TransactionTemplate transactions;

  PolicyController(
      ApprovalPolicy policy,
      RequestContexts contexts,
      Trail trail,
      AuditContext auditContext,
      TransactionTemplate transactions) {
    this.policy = policy;
    this.contexts = contexts;
    this.trail = trail;
    this.auditContext = auditContext;
    this.transactions = transactions;
  }

  /**
   * The policy of a root account.
   *
   * @param people how many people one person alone may give or take rights; null for any number
   * @param reason whether a draft needs a reason, {@code reference} a ticket or order
   * @param mine whether the viewer may change it
   */
  record ApprovalRule(
      String account,
      String name,
      @Nullable Integer people,
      boolean reason,
      boolean reference,
      boolean mine) {}

  /** The policies of the root accounts that the viewer may read. */
  record ApprovalRules(List<ApprovalRule> rules) {}

  @GetMapping
  ApprovalRules rules() {
    RequestContext context = contexts.context();
    Map<String, ApprovalPolicy.Rule> rules = policy.rules();
    return new ApprovalRules(
        context.state().engine().catalogue().accounts().values().stream()
            .filter(it -> it.parent() == null && context.readPolicy().mayRead(it.key()))
            .map(it ->
                view(it, rules.getOrDefault(it.key().value(), ApprovalPolicy.Rule.NONE), context))
            .toList());
  }

  private static ApprovalRule view(Account root, ApprovalPolicy.Rule rule, RequestContext context) {
    return new ApprovalRule(
        root.key().value(),
        root.about().nameOr(root.key()),
        rule.people(),
        rule.reason(),
        rule.reference(),
        may(root.key(), context));
  }

  private static boolean may(AccountKey root, RequestContext context) {
    return context.readPolicy().may(Supplied.SETTINGS_MANAGE, ResourceKey.of(root));
  }

  /**
   * What drafts over a root account need.
   *
   * @param people how many people one person alone may give or take rights; null for any number
   * @param reason whether they need a reason, {@code reference} a ticket or order; absent for no
   */
  record ApprovalLimit(
      @Nullable @Min(0) @Max(1_000_000) Integer people,
      @Nullable Boolean reason,
      @Nullable Boolean reference) {
    ApprovalPolicy.Rule rule() {
      return new ApprovalPolicy.Rule(
          people, Boolean.TRUE.equals(reason), Boolean.TRUE.equals(reference));
    }
  }

  @PutMapping("/{account}")
  ApprovalRules set(@PathVariable String account, @Valid @RequestBody ApprovalLimit limit) {
    RequestContext context = contexts.context();
    Account root = context.state().engine().catalogue().accounts().get(new AccountKey(account));
    if (root == null || !context.readPolicy().mayRead(root.key())) {
      throw Problem.notFound("There is no account '" + account + "'.");
    }
    if (root.parent() != null) {
      throw Problem.badRequest(
          "'" + account + "' is part of another account",
          "The policy belongs to the account at the top. Open that one.");
    }
    if (!may(root.key(), context)) {
      throw Problem.forbidden(
          "To change this policy you need “Manage settings” on "
              + root.about().nameOr(root.key())
              + ". Ask its owner, or show your second factor.");
    }
    transactions.executeWithoutResult(_ -> {
      policy.set(root.key(), limit.rule());
      trail.write(
          List.of(auditContext.by(AuditEvent.Act.CHANGED, List.of(account), said(limit.rule()))));
    });
    return rules();
  }

  private static String said(ApprovalPolicy.Rule rule) {
    String people =
        rule.people() == null
            ? "any number of people may be concerned without a second person"
            : "a second person approves what concerns more than " + rule.people() + " people";
    String needed =
        rule.reason() && rule.reference()
            ? "; a reason and a reference are required"
            : rule.reason()
                ? "; a reason is required"
                : rule.reference() ? "; a reference is required" : "";
    return "Policy: " + people + needed;
  }
}

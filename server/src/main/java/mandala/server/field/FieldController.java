package mandala.server.field;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The fields that an account asks of its people and services. */
@RestController
@RequestMapping("/api/accounts/{account}/fields")
class FieldController {

  /** Keys that rules of groups know already (section 3). */
  private static final Set<String> TAKEN = Set.of("kind", "status", "account", "unit", "manager");

  private final DeclaredFields fields;
  private final RequestContexts contexts;
  private final Trail trail;
  private final AuditContext auditContext;
  private final TransactionTemplate transactions;

  FieldController(
      DeclaredFields fields,
      RequestContexts contexts,
      Trail trail,
      AuditContext auditContext,
      TransactionTemplate transactions) {
    this.fields = fields;
    this.contexts = contexts;
    this.trail = trail;
    this.auditContext = auditContext;
    this.transactions = transactions;
  }

  /**
   * A field that holds in an account.
   *
   * @param own whether the account declares it itself; else one above it does
   */
  record FieldView(DeclaredField field, boolean own) {}

  /**
   * The fields that hold in an account.
   *
   * @param mine whether the viewer may declare them
   */
  record FieldsView(List<FieldView> fields, boolean mine) {}

  /** The fields that an account declares itself, in their order. */
  record FieldsOrder(@NotNull @Size(max = 30) List<@NotNull @Valid DeclaredField> fields) {}

  /** The fields that hold in an account. */
  @GetMapping
  FieldsView fields(@PathVariable String account) {
    RequestContext context = contexts.context();
    return view(new AccountKey(context.known(Kind.ACCOUNTS, account)), context);
  }

  private FieldsView view(AccountKey account, RequestContext context) {
    Catalogue in = context.state().engine().catalogue();
    Map<AccountKey, List<DeclaredField>> declared = fields.all();
    List<DeclaredField> own = declared.getOrDefault(account, List.of());
    return new FieldsView(
        DeclaredFields.of(account, declared, in).values().stream()
            .map(it -> new FieldView(it, own.contains(it)))
            .toList(),
        mayDeclare(account, context));
  }

  private static boolean mayDeclare(AccountKey account, RequestContext context) {
    return context.readPolicy().may(Supplied.PEOPLE_MANAGE, ResourceKey.of(account));
  }

  /** Declares the fields of an account in place of those before. */
  @PutMapping
  FieldsView declare(@PathVariable String account, @Valid @RequestBody FieldsOrder order) {
    RequestContext context = contexts.context();
    AccountKey key = new AccountKey(context.known(Kind.ACCOUNTS, account));
    if (!mayDeclare(key, context)) {
      throw Problem.forbidden(
          context.needs(Supplied.PEOPLE_MANAGE, ResourceKey.of(key))
              + " Ask a directory administrator of the account.");
    }
    requireApart(order.fields());
    transactions.executeWithoutResult(_ -> {
      fields.declare(key, order.fields());
      trail.write(
          List.of(auditContext.by(AuditEvent.Act.CHANGED, List.of(account), said(order.fields()))));
    });
    return view(key, context);
  }

  private static void requireApart(List<DeclaredField> fields) {
    Set<String> keys = new HashSet<>();
    for (DeclaredField it : fields) {
      if (TAKEN.contains(it.key())) {
        throw Problem.badRequest(
            "The key '" + it.key() + "' is taken",
            "Every person has a " + it.key() + " already. Choose another key.");
      }
      if (!keys.add(it.key())) {
        throw Problem.badRequest(
            "Two fields have the key '" + it.key() + "'", "Choose another key for one of them.");
      }
    }
  }

  private static String said(List<DeclaredField> fields) {
    return fields.isEmpty()
        ? "Asks for no fields of its people"
        : "Asks its people for "
            + String.join(", ", fields.stream().map(DeclaredField::label).toList());
  }
}

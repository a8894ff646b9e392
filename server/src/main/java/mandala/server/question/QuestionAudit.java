package mandala.server.question;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.ResourcePath;
import mandala.server.session.AuditContext;
import org.springframework.stereotype.Component;

/**
 * Writes into the trail who asked what about whom: questions about others, and whatever is asked in
 * an impersonated view, under the one who is really signed in.
 */
@Component
public final class QuestionAudit {

  private final Trail trail;
  private final AuditContext auditContext;

  QuestionAudit(Trail trail, AuditContext auditContext) {
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /**
   * Notes a question about a principal; of one's own access nothing is noted.
   *
   * @param places accounts besides the principal's home that the line names
   */
  public void about(RequestContext context, Principal whom, String said, AccountKey... places) {
    if (context.readPolicy().isViewer(whom.key()) && !AuditContext.isView()) {
      return;
    }
    Catalogue catalogue = context.state().engine().catalogue();
    Principal now = catalogue.principals().get(whom.key());
    Principal about = now == null ? whom : now;
    List<String> accounts = new ArrayList<>(List.of(about.account().value()));
    for (AccountKey it : places) {
      if (!accounts.contains(it.value())) {
        accounts.add(it.value());
      }
    }
    trail.writeAlone(
        auditContext
            .by(AuditEvent.Act.ASKED, accounts, said)
            .about(
                Kind.PRINCIPALS.field(),
                about.key().value(),
                about.about().nameOr(about.key()),
                ResourcePath.above(about.place(), catalogue)));
  }

  /** Notes a question about several principals together. */
  public void about(RequestContext context, Collection<PrincipalKey> whom, String said) {
    Catalogue catalogue = context.state().engine().catalogue();
    List<Principal> known =
        whom.stream().map(catalogue.principals()::get).filter(Objects::nonNull).toList();
    if (known.size() == 1 && whom.size() == 1) {
      about(context, known.getFirst(), said);
    } else {
      everybody(known.stream().map(it -> it.account().value()).distinct().sorted().toList(), said);
    }
  }

  /** Notes a question about everybody on some accounts. */
  void everybody(List<String> accounts, String said) {
    trail.writeAlone(auditContext.by(AuditEvent.Act.ASKED, accounts, said));
  }
}

package mandala.server.access;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
import org.springframework.stereotype.Component;

/**
 * Writes into the trail who asked what about whom: questions about others, and whatever is asked in
 * an impersonated view, under the one who is really signed in.
 */
@Component
public final class Asking {

  private final Trail trail;
  private final Trace trace;

  Asking(Trail trail, Trace trace) {
    this.trail = trail;
    this.trace = trace;
  }

  /**
   * Notes a question about a principal; of one's own access nothing is noted.
   *
   * @param places accounts besides the principal's home that the line names
   */
  public void about(Look look, Principal whom, String said, Key.Account... places) {
    if (whom.key().equals(look.sight().viewer()) && !Trace.isView()) {
      return;
    }
    Catalogue catalogue = look.state().engine().catalogue();
    Principal now = catalogue.principals().get(whom.key());
    Principal about = now == null ? whom : now;
    List<String> accounts = new ArrayList<>(List.of(about.account().value()));
    for (Key.Account it : places) {
      if (!accounts.contains(it.value())) {
        accounts.add(it.value());
      }
    }
    trail.writeAlone(
        trace
            .by(Happening.Act.ASKED, accounts, said)
            .about(
                Kind.PRINCIPALS.field(),
                about.key().value(),
                about.about().nameOr(about.key()),
                Places.above(about.place(), catalogue)));
  }

  /** Notes a question about everybody on some accounts. */
  void everybody(List<String> accounts, String said) {
    trail.writeAlone(trace.by(Happening.Act.ASKED, accounts, said));
  }
}

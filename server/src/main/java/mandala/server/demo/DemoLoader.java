package mandala.server.demo;

import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.Map;
import mandala.core.authority.Authority;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Principal;
import mandala.core.question.Session;
import mandala.demo.DemoHistory;
import mandala.demo.Larkmoor;
import mandala.server.audit.Trail;
import mandala.server.draft.ChangeLines;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import mandala.server.session.Credentials;
import mandala.server.session.DemoCredentials;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.web.server.context.WebServerInitializedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Loads the demo into a database that has nothing yet, where the demo is wanted. */
@Component
class DemoLoader {

  private static final Logger LOG = LoggerFactory.getLogger(DemoLoader.class);

  private final boolean wanted;
  private final LiveModel model;
  private final Credentials credentials;
  private final Trail trail;
  private final Clock clock;
  private final DemoUseLoader use;

  DemoLoader(
      @Value("${mandala.demo}") boolean wanted,
      LiveModel model,
      Credentials credentials,
      Trail trail,
      Clock clock,
      DemoUseLoader use) {
    this.use = use;
    this.clock = clock;
    this.wanted = wanted;
    this.model = model;
    this.credentials = credentials;
    this.trail = trail;
  }

  @EventListener
  void load(WebServerInitializedEvent started) {
    if (wanted && model.state().revision() == 0) {
      load();
    }
    if (wanted) {
      use.load();
    }
  }

  private void load() {
    DemoDates dates = DemoDates.from(clock);
    AccessModel larkmoor = dates.moved(Larkmoor.model());
    Map<Principal, String> secrets = new LinkedHashMap<>();
    for (Principal principal : larkmoor.principals()) {
      if (principal.kind() == Principal.Kind.PERSON) {
        secrets.put(principal, principal.mfa() ? DemoCredentials.secretOf(principal.key()) : "");
      }
    }
    String hash = credentials.hash(DemoCredentials.PASSWORD);
    DemoHistory past = dates.moved(DemoHistory.of(Larkmoor.model()));
    Telling told = new Telling(Engine.of(past.first()));
    model.begin(
        past.first(),
        past.began(),
        past.revisions().stream().map(DemoLoader::earlier).toList(),
        true,
        (entities, revision) -> {
          if (told.first == 0) {
            told.first = revision;
            secrets.forEach((principal, secret) ->
                credentials.keep(
                    entities, principal.key(), hash, secret.isEmpty() ? null : secret));
          } else {
            told.next(past.revisions().get((int) (revision - told.first) - 1), revision);
          }
        });
    LOG.info("Loaded the demo: {} things", larkmoor.size());
  }

  private static LiveModel.Earlier earlier(DemoHistory.Made it) {
    RevisionCause cause = new RevisionCause(it.author().value(), it.title(), null, null);
    return new LiveModel.Earlier(it.at(), cause, it.changes());
  }

  /** Writes the trail of the past: what each revision changed, one after the other. */
  private final class Telling {
    private Engine engine;
    private long first;

    Telling(Engine engine) {
      this.engine = engine;
    }

    void next(DemoHistory.Made it, long revision) {
      Draft draft = Draft.of(it.changes());
      Authority authority =
          Authority.of(engine, draft, new Session(it.author(), it.at(), true, null));
      Engine after = engine.after(it.changes());
      trail.write(
          ChangeLines.of(
              it.changes(), authority, engine.catalogue(), after.catalogue(), revision, null),
          it.at());
      engine = after;
    }
  }
}

package mandala.server.demo;

import java.util.LinkedHashMap;
import java.util.Map;
import mandala.core.model.AccessModel;
import mandala.core.model.Principal;
import mandala.demo.Larkmoor;
import mandala.server.model.LiveModel;
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

  DemoLoader(@Value("${mandala.demo}") boolean wanted, LiveModel model, Credentials credentials) {
    this.wanted = wanted;
    this.model = model;
    this.credentials = credentials;
  }

  @EventListener
  void load(WebServerInitializedEvent started) {
    if (!wanted || model.state().revision() > 0) {
      return;
    }
    AccessModel larkmoor = Larkmoor.model();
    Map<Principal, String> secrets = new LinkedHashMap<>();
    for (Principal principal : larkmoor.principals()) {
      if (principal.kind() == Principal.Kind.PERSON) {
        secrets.put(principal, principal.mfa() ? DemoCredentials.secretOf(principal.key()) : "");
      }
    }
    String hash = credentials.hash(DemoCredentials.PASSWORD);
    model.replace(
        larkmoor,
        true,
        entities ->
            secrets.forEach((principal, secret) ->
                credentials.keep(
                    entities, principal.key(), hash, secret.isEmpty() ? null : secret)));
    LOG.info("Loaded the demo: {} things", larkmoor.size());
  }
}

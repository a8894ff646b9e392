package mandala.server.demo;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.demo.Larkmoor;
import mandala.server.model.LiveModel;
import mandala.server.session.Credentials;
import mandala.server.session.DemoCredentials;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.autoconfigure.condition.ConditionalOnBooleanProperty;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** In the demo, and only there: people to sign in as by a click, with their current codes. */
@RestController
@ConditionalOnBooleanProperty("mandala.demo")
class DemoController {

  private final LiveModel model;
  private final Credentials credentials;
  private final Clock clock;

  DemoController(LiveModel model, Credentials credentials, Clock clock) {
    this.model = model;
    this.credentials = credentials;
    this.clock = clock;
  }

  /**
   * Somebody to sign in as.
   *
   * @param about what makes it worth while
   * @param code a code of the second factor that is good now; null where not enrolled
   */
  record DemoPerson(
      String key,
      String name,
      @Nullable String title,
      String accountName,
      String about,
      String password,
      @Nullable String code) {}

  @GetMapping("/api/demo/people")
  List<DemoPerson> people() {
    LiveModel.State state = model.state();
    List<DemoPerson> people = new ArrayList<>();
    if (!state.demo()) {
      return people;
    }
    Instant now = clock.instant();
    Catalogue catalogue = state.engine().catalogue();
    for (Map.Entry<PrincipalKey, String> entry : Larkmoor.signIns().entrySet()) {
      Principal principal = catalogue.principals().get(entry.getKey());
      if (principal != null) {
        people.add(
            new DemoPerson(
                principal.key().value(),
                principal.about().nameOr(principal.key()),
                principal.attributes().get("title"),
                catalogue.nameOf(ResourceKey.of(principal.account())),
                entry.getValue(),
                DemoCredentials.PASSWORD,
                principal.mfa() ? credentials.demoCode(principal.key(), now) : null));
      }
    }
    return people;
  }
}

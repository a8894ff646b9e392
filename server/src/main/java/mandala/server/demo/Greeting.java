package mandala.server.demo;

import java.util.Map;
import mandala.core.model.key.PrincipalKey;
import mandala.demo.Larkmoor;
import mandala.server.model.LiveModel;
import mandala.server.session.DemoCredentials;
import mandala.server.session.OwnerLink;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/** Tells whoever started Mandala where it is and how to sign in. */
@Component
@ConditionalOnProperty(name = "mandala.verify-trail", havingValue = "false", matchIfMissing = true)
class Greeting {

  private final LiveModel model;
  private final OwnerLink link;
  private final Environment environment;

  Greeting(LiveModel model, OwnerLink link, Environment environment) {
    this.model = model;
    this.link = link;
    this.environment = environment;
  }

  @EventListener
  @SuppressWarnings("SystemOut") // this is for the person at the terminal
  void greet(ApplicationReadyEvent ready) {
    String address = "http://127.0.0.1:" + environment.getProperty("local.server.port");
    System.out.println();
    System.out.println("  Mandala is at " + address);
    LiveModel.State state = model.state();
    if (state.demo()) {
      System.out.println();
      System.out.println(
          "  Demo sign-ins, all with the password "
              + DemoCredentials.PASSWORD
              + "; the page shows their codes:");
      for (Map.Entry<PrincipalKey, String> who : Larkmoor.signIns().entrySet()) {
        System.out.printf("    %-18s %s%n", who.getKey(), who.getValue());
      }
    } else if (state.revision() == 0) {
      System.out.println("  Create the owner, once: " + address + "/welcome?token=" + link.renew());
    }
    System.out.println();
    System.out.println("  Ctrl-C stops it.");
  }
}

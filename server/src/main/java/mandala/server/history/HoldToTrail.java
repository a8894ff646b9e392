package mandala.server.history;

import mandala.server.model.LiveModel;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** At the start, a model that an earlier version left is held to the trail from here on. */
@Component
class HoldToTrail {

  private final LiveModel model;
  private final boolean onlyVerifying;

  HoldToTrail(LiveModel model, @Value("${mandala.verify-trail:false}") boolean onlyVerifying) {
    this.model = model;
    this.onlyVerifying = onlyVerifying;
  }

  @EventListener(ApplicationReadyEvent.class)
  void hold() {
    if (!onlyVerifying) {
      model.holdToTrail();
    }
  }
}

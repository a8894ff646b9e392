package mandala.server.access;

import mandala.server.model.LiveModel;
import mandala.server.session.Viewer;
import org.springframework.stereotype.Component;

/** Makes the sight of whoever calls. */
@Component
public class Sights {

  private final LiveModel model;
  private final Viewer viewer;

  Sights(LiveModel model, Viewer viewer) {
    this.model = model;
    this.viewer = viewer;
  }

  /**
   * One call's view of the model: the state and what the caller may see of it, fitting together.
   *
   * @param state the model
   * @param sight what may be seen of it
   */
  public record Look(LiveModel.State state, Sight sight) {}

  /** {@return the look of the running call} */
  public Look look() {
    LiveModel.State state = model.state();
    return new Look(state, new Sight(state.engine(), viewer.session()));
  }
}

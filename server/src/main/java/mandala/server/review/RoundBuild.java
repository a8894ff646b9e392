package mandala.server.review;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import mandala.core.excess.ExcessStudy;
import mandala.core.question.Impact;
import mandala.server.excess.ExcessStudies;
import mandala.server.model.LiveModel;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Finds the items of a round on a state of the model, with what everybody needs. */
@Component
class RoundBuild {

  private final RoundDesk desk;
  private final ExcessStudies studies;
  private final ZoneId zone;

  RoundBuild(RoundDesk desk, ExcessStudies studies, @Value("${mandala.zone}") ZoneId zone) {
    this.desk = desk;
    this.studies = studies;
    this.zone = zone;
  }

  /** {@return the items of a round}, at an instant */
  List<RoundItem> items(RoundOrder order, LiveModel.State state, Instant at, Impact.Watch watch) {
    Instant now = at.truncatedTo(ChronoUnit.SECONDS);
    ExcessStudies.Everybody of =
        studies.everybody(state, studies.basis(state, LocalDate.ofInstant(now, zone)), now);
    ExcessStudy study = state.engine().excess(of.then(), of.use(), of.window());
    return new RoundMaker(
            state.engine(), order, desk.known(order, state.engine().catalogue(), now), now)
        .rows(study, watch);
  }
}

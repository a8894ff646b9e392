package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** The one row that says which state of the model the tables hold. */
@Entity
@Table(name = "model_revision")
class ModelHead {

  @Id private int id = 1;
  private long number;
  private boolean demo;

  @Column(name = "changed_at")
  private Instant changedAt = Instant.EPOCH;

  long number() {
    return number;
  }

  boolean demo() {
    return demo;
  }

  void advance(boolean isDemo, Instant at) {
    number++;
    demo = isDemo;
    changedAt = at;
  }
}

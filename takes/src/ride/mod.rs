//! Cameras on their way through a take: moments, rows, abrupt moments, and what is drawn over them.

pub(crate) mod clock;
pub(crate) mod drawn;
pub(crate) mod jerks;
pub(crate) mod marks;
pub(crate) mod moment;
pub(crate) mod ride;
pub(crate) mod row;
pub(crate) mod run;
pub(crate) mod scene;
pub(crate) mod side_by_side;

//! Days that lie in the past whenever the demo is filled.

use jiff::civil::{Date, date};

/// The last time this day of the year went by, or so many years before that.
pub(super) fn latest(today: Date, month: i8, day: i8, years_back: i16) -> Date {
    let this_year = date(today.year(), month, day);
    let went_by = if this_year < today { today.year() } else { today.year() - 1 };
    date(went_by - years_back, month, day)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_day_of_the_year_lies_in_the_past() {
        let today = date(2026, 3, 10);
        assert_eq!(latest(today, 3, 9, 0), date(2026, 3, 9));
        assert_eq!(latest(today, 3, 10, 0), date(2025, 3, 10));
        assert_eq!(latest(today, 11, 2, 1), date(2024, 11, 2));
    }
}

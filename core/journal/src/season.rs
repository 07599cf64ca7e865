//! The parts of the year and of the day.

use serde::{Deserialize, Serialize};

/// A season of three months: winter is December to February in the north.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Season {
    /// March to May in the north.
    Spring,
    /// June to August in the north.
    Summer,
    /// September to November in the north.
    Autumn,
    /// December to February in the north.
    Winter,
}

impl Season {
    /// All, in the order of a year.
    pub const ALL: [Self; 4] = [Self::Spring, Self::Summer, Self::Autumn, Self::Winter];

    /// The season of a day, as `2025-01-14`; `southern` where the year is turned about. `None` when it is no day.
    pub fn of(day: &str, southern: bool) -> Option<Self> {
        let month: u8 = day.get(5..7)?.parse().ok().filter(|m| (1..=12).contains(m))?;
        let all = [Self::Winter, Self::Spring, Self::Summer, Self::Autumn];
        Some(all[(usize::from(month % 12) / 3 + if southern { 2 } else { 0 }) % 4])
    }

    /// What it is called.
    pub fn name(self) -> &'static str {
        match self {
            Self::Spring => "Spring",
            Self::Summer => "Summer",
            Self::Autumn => "Autumn",
            Self::Winter => "Winter",
        }
    }

    /// The season of a day with its year, as "Winter 2026": December belongs to the year its season ends in. Empty when it is no day.
    pub fn headed(day: &str, southern: bool) -> String {
        let year = day.get(..4).and_then(|y| y.parse::<u16>().ok());
        match (Self::of(day, southern), year) {
            (Some(season), Some(year)) => format!("{} {}", season.name(), year + u16::from(day.get(5..7) == Some("12"))),
            _ => String::new(),
        }
    }

    /// Its months, 1..=12.
    pub fn months(self, southern: bool) -> [u8; 3] {
        let first = match self {
            Self::Winter => 12,
            Self::Spring => 3,
            Self::Summer => 6,
            Self::Autumn => 9,
        };
        let first = if southern { first + 6 } else { first };
        [0, 1, 2].map(|i| (first + i - 1) % 12 + 1)
    }
}

/// A part of the day.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DayTime {
    /// 4 to 9 o'clock.
    Early,
    /// 9 to 15 o'clock.
    Midday,
    /// 15 to 19 o'clock.
    Late,
    /// 19 to 4 o'clock.
    Night,
}

impl DayTime {
    /// All, in the order of a day.
    pub const ALL: [Self; 4] = [Self::Early, Self::Midday, Self::Late, Self::Night];

    /// What a painter calls it, with its hours.
    pub fn label(self) -> String {
        let name = match self {
            Self::Early => "early",
            Self::Midday => "midday",
            Self::Late => "late",
            Self::Night => "night",
        };
        let (from, to) = self.hours();
        format!("{name}, {from} to {to}")
    }

    /// The hours it begins and ends at, the end not counted; night runs over midnight.
    pub fn hours(self) -> (u8, u8) {
        match self {
            Self::Early => (4, 9),
            Self::Midday => (9, 15),
            Self::Late => (15, 19),
            Self::Night => (19, 4),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_month_lies_in_the_season_whose_months_name_it() {
        for southern in [false, true] {
            for month in 1..=12u8 {
                let season = Season::of(&format!("2025-{month:02}-01"), southern).unwrap();
                assert!(season.months(southern).contains(&month), "{month} {season:?} {southern}");
            }
        }
        assert_eq!(Season::of("2025-13-01", false), None);
        assert_eq!(Season::headed("2025-12-31", false), "Winter 2026");
        assert_eq!(Season::headed("2026-02-01", false), "Winter 2026");
        assert_eq!(Season::headed("2025-12-31", true), "Summer 2026");
        assert_eq!(Season::headed("soon", false), "");
    }
}

//! RescueIntake out of a damaged data file every record, picture and map that is what was written. The file itself is only read.

mod cells;
mod image;
mod rows;

use crate::keeping::intake::{Intake, Row, noun};
use crate::keeping::unfinished_file::{UnfinishedFile, folder_of};
use crate::keeping::{Backups, Disk, is_marked, kept_damaged};
use crate::sound::RowProof;
use crate::{Store, StoreError, migrations, sound};
use image::{Image, u32_at};
use rows::Finder;
use serde::Serialize;
use std::path::{Path, PathBuf};

/// What was taken out of a damaged file.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize)]
pub struct RescueReport {
    /// Records, pictures, maps and steps that were taken out.
    pub rows: usize,
    /// What is missing or cannot be read, in sentences.
    pub lost: Vec<String>,
}

/// A data file that was found damaged and gave way to what could be taken out of it.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
pub struct ReplacedFile {
    /// Where the damaged file lies now.
    pub kept: PathBuf,
    /// What was taken out of it.
    pub rescued: RescueReport,
}

impl Store {
    /// Takes everything that is sound out of a damaged data file, into a new one.
    ///
    /// # Errors
    /// [`StoreError::There`] when there is a file already, [`StoreError::NoRoom`], [`StoreError::Damaged`] where nothing can be taken out.
    pub fn rescue(damaged: &Path, to: &Path) -> Result<RescueReport, StoreError> {
        let half = UnfinishedFile::begun(to)?;
        let rescued = rescue_into(damaged, &half)?;
        half.finished()?;
        Ok(rescued)
    }

    /// Puts what can be taken out of a damaged data file in its place. The damaged one is kept among the backups.
    ///
    /// # Errors
    /// As [`Store::rescue`]; the file lies where it lay then.
    pub(crate) fn replace_damaged(path: &Path) -> Result<ReplacedFile, StoreError> {
        let half = UnfinishedFile::begun_to_replace(path)?;
        let rescued = rescue_into(path, &half)?;
        let kept = kept_damaged(path)?;
        half.finished_in_place()?;
        Ok(ReplacedFile { kept, rescued })
    }
}

fn rescue_into(damaged: &Path, half: &UnfinishedFile) -> Result<RescueReport, StoreError> {
    let image = Image::open(damaged).map_err(|e| StoreError::file(damaged, &e))?;
    let size = u64::from(image.pages()) * image::PAGE as u64;
    Disk::default().has_room(folder_of(half.path()), size / 2, "what can be taken out of the damaged data file")?;
    let shape = shape_of(&image);
    if shape > migrations::SHAPE && is_marked(damaged) {
        return Err(StoreError::newer(None));
    }
    let shape = if (1..=migrations::SHAPE).contains(&shape) { shape } else { migrations::SHAPE };
    let mut intake = Intake::begun(half, shape)?;
    let tables = intake.tables()?;
    let mut taking = RescueIntake { intake: &mut intake, shape, sound: 0 };
    rows::find(&image, &tables, shape, &mut taking);
    let sound = taking.sound;
    let (rows, mut lost) = intake.finished()?;
    if sound == 0 && !is_marked(damaged) {
        return Err(StoreError::Damaged("nothing in it was written by this program".into()));
    }
    lost.extend(Store::open_only(half.path())?.check_all(&|_| {})?.problems);
    lost.dedup();
    Ok(RescueReport { rows, lost })
}

/// The shape a file says it has.
fn shape_of(image: &Image) -> usize {
    image.page(1).and_then(|page| u32_at(&page, 60)).map_or(0, |n| n as usize)
}

/// Puts into a new file what is found.
struct RescueIntake<'i> {
    intake: &'i mut Intake,
    shape: usize,
    sound: usize,
}

impl Finder for RescueIntake<'_> {
    fn row(&mut self, row: Row, vouched: RowProof) {
        if vouched == RowProof::Not && (self.shape < sound::SINCE || matches!(row.table.as_str(), "pictures" | "maps" | "log")) {
            self.intake.tell(format!("The {} {} is not what was written and was left out.", noun(&row.table), row.key()));
            return;
        }
        let table = row.table.clone();
        match self.intake.put(&row, vouched) {
            Ok(()) => self.sound += usize::from(vouched == RowProof::Sound),
            Err(e) => self.intake.tell(format!("The {} {} cannot be read: {e}.", noun(&table), row.key())),
        }
    }

    fn lost(&mut self, words: String) {
        self.intake.tell(words);
    }
}

/// Every damaged data file that gave way to another and is kept.
pub(crate) fn kept_files(data: &Path) -> Vec<PathBuf> {
    let damaged = |p: &PathBuf| p.file_name().is_some_and(|n| n.to_string_lossy().contains(".damaged-"));
    Backups::of(data).everything().into_iter().filter(damaged).collect()
}

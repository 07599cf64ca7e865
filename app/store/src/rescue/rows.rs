//! Every row that can be found in the pages of a damaged file: first along the trees, then in pages no tree leads to any more.

use super::cells::{Cell, Node, node};
use super::image::{Image, u32_at};
use crate::keeping::intake::{Row, Table, noun, own_proof};
use crate::sound::RowProof;
use rusqlite::types::Value;
use std::collections::{BTreeMap, HashSet};

/// What is told while rows are found.
pub(crate) trait Finder {
    /// A row of a table, and what its sum says of it.
    fn row(&mut self, row: Row, vouched: RowProof);
    /// Something that could not be read, in a sentence.
    fn lost(&mut self, words: String);
}

/// Finds every row of some tables of a file of a shape.
pub(super) fn find(image: &Image, tables: &[Table], shape: usize, to: &mut dyn Finder) {
    let mut search = Search { image, tables, shape, seen: HashSet::new() };
    let roots = search.roots(to);
    search.skip_free();
    for table in tables {
        if let Some(root) = roots.get(&table.name) {
            search.walk(*root, Some(table), to);
        }
    }
    for (name, root) in &roots {
        if !tables.iter().any(|t| t.name == *name) {
            // Indexes and what can be made anew: their pages are not looked through for rows of others.
            search.walk(*root, None, to);
        }
    }
    search.astray(to);
}

struct Search<'a> {
    image: &'a Image,
    tables: &'a [Table],
    shape: usize,
    seen: HashSet<u32>,
}

impl Search<'_> {
    /// First pages of tables and indexes, by name.
    fn roots(&mut self, to: &mut dyn Finder) -> BTreeMap<String, u32> {
        let mut roots = BTreeMap::new();
        let (mut ahead, mut seen) = (vec![1], HashSet::new());
        while let Some(number) = ahead.pop() {
            if !seen.insert(number) {
                continue;
            }
            let Some(page) = node(self.image, number) else {
                to.lost(format!("Page {number} of the list of tables is damaged: records are told by their sums alone."));
                continue;
            };
            ahead.extend(page.below);
            for cell in page.cells {
                if let [Value::Text(_), Value::Text(name), _, Value::Integer(root), ..] = &cell.values[..]
                    && let Ok(root) = u32::try_from(*root)
                {
                    roots.insert(name.clone(), root);
                }
            }
        }
        self.seen = seen;
        roots
    }

    /// Pages that were let go: what lies in them was deleted.
    fn skip_free(&mut self) {
        let Some(head) = self.image.page(1) else { return };
        let mut trunk = u32_at(&head, 32).unwrap_or(0);
        while trunk != 0 && trunk <= self.image.pages() && self.seen.insert(trunk) {
            let Some(page) = self.image.page(trunk) else { return };
            let leaves = u32_at(&page, 4).unwrap_or(0) as usize;
            for n in 0..leaves.min(page.len() / 4 - 2) {
                self.seen.extend(u32_at(&page, 8 + 4 * n).filter(|p| *p <= self.image.pages()));
            }
            trunk = u32_at(&page, 0).unwrap_or(0);
        }
    }

    fn walk(&mut self, root: u32, table: Option<&Table>, to: &mut dyn Finder) {
        let mut ahead = vec![root];
        while let Some(number) = ahead.pop() {
            if !self.seen.insert(number) {
                continue;
            }
            let named = |t: &Table| noun(&t.name);
            let Some(Node { cells, below, broken }) = node(self.image, number) else {
                if let Some(table) = table {
                    to.lost(format!(
                        "Page {number} of the file is damaged; there was at least one {} on it, or the way to some.",
                        named(table)
                    ));
                }
                continue;
            };
            ahead.extend(below.into_iter().rev());
            if let Some(table) = table.filter(|_| broken > 0) {
                let what = if broken == 1 { format!("A {}", named(table)) } else { format!("{broken} of the kind \"{}\"", named(table)) };
                to.lost(format!("{what} on page {number} of the file cannot be read."));
            }
            for cell in cells {
                self.seen.extend(&cell.rest);
                let Some(table) = table else { continue };
                match self.proven(&cell) {
                    Some(row) => to.row(row, RowProof::Sound),
                    // Rows of another table came with a page that took the place of another one.
                    None => match table.row(&cell.values, cell.row) {
                        Some(row) => {
                            let vouched = own_proof(&row, self.shape);
                            to.row(row, vouched);
                        }
                        None => to.lost(format!("A {} on page {number} of the file cannot be read.", named(table))),
                    },
                }
            }
        }
    }

    /// Rows that prove themselves, on pages that nothing leads to.
    fn astray(&mut self, to: &mut dyn Finder) {
        for number in 1..=self.image.pages() {
            if self.seen.contains(&number) {
                continue;
            }
            let Some(page) = node(self.image, number) else { continue };
            for cell in page.cells {
                if let Some(row) = self.proven(&cell) {
                    to.row(row, RowProof::Sound);
                }
            }
        }
    }

    /// The row a cell is, of whichever table its sum says.
    fn proven(&self, cell: &Cell) -> Option<Row> {
        let mut of = self.tables.iter().filter_map(|t| t.row(&cell.values, cell.row));
        of.find(|row| own_proof(row, self.shape) == RowProof::Sound)
    }
}

//! Counts the bytes in use, for the growth of memory.

use std::alloc::{GlobalAlloc, Layout, System};
use std::sync::atomic::{AtomicUsize, Ordering::Relaxed};

/// The system's allocator, counted.
pub(crate) struct Counting {
    now: AtomicUsize,
    most: AtomicUsize,
}

impl Counting {
    pub(crate) const fn new() -> Self {
        Self { now: AtomicUsize::new(0), most: AtomicUsize::new(0) }
    }

    /// Bytes in use; from here on the most is counted anew.
    pub(crate) fn begin(&self) -> usize {
        let now = self.now.load(Relaxed);
        self.most.store(now, Relaxed);
        now
    }

    /// Most bytes in use since the count began.
    pub(crate) fn most(&self) -> usize {
        self.most.load(Relaxed)
    }

    fn add(&self, bytes: usize) {
        let now = self.now.fetch_add(bytes, Relaxed) + bytes;
        self.most.fetch_max(now, Relaxed);
    }
}

// SAFETY: everything is handed to the system's allocator unchanged.
unsafe impl GlobalAlloc for Counting {
    unsafe fn alloc(&self, layout: Layout) -> *mut u8 {
        self.add(layout.size());
        // SAFETY: as asked by the caller.
        unsafe { System.alloc(layout) }
    }

    unsafe fn alloc_zeroed(&self, layout: Layout) -> *mut u8 {
        self.add(layout.size());
        // SAFETY: as asked by the caller.
        unsafe { System.alloc_zeroed(layout) }
    }

    unsafe fn dealloc(&self, at: *mut u8, layout: Layout) {
        self.now.fetch_sub(layout.size(), Relaxed);
        // SAFETY: as asked by the caller.
        unsafe { System.dealloc(at, layout) }
    }
}

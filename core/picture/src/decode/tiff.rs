//! What a TIFF says of itself before it is unpacked (TIFF 6.0).

/// Pages of full size: reduced ones, as cameras put beside the picture, are not counted. Enough are counted to know that there are several.
pub(super) fn pages(bytes: &[u8]) -> usize {
    const MOST: usize = 8;
    let Some(little) = (match bytes.get(..2) {
        Some(b"II") => Some(true),
        Some(b"MM") => Some(false),
        _ => None,
    }) else {
        return 0;
    };
    let two =
        |at: usize| bytes.get(at..at + 2).map(|b| if little { u16::from_le_bytes([b[0], b[1]]) } else { u16::from_be_bytes([b[0], b[1]]) });
    let four = |at: usize| {
        let b = bytes.get(at..at.checked_add(4)?)?;
        Some(if little { u32::from_le_bytes([b[0], b[1], b[2], b[3]]) } else { u32::from_be_bytes([b[0], b[1], b[2], b[3]]) } as usize)
    };
    let (mut at, mut found) = (four(4).unwrap_or(0), 0);
    for _ in 0..MOST {
        let Some(entries) = two(at).map(usize::from).filter(|_| at >= 8) else { break };
        /// Whether a page is a reduced copy or a mask of another.
        const KIND: u16 = 254;
        let entry = |n: usize| at + 2 + 12 * n;
        let kind = (0..entries).find(|n| two(entry(*n)) == Some(KIND)).and_then(|n| four(entry(n) + 8));
        found += usize::from(kind.unwrap_or(0) & 0b101 == 0);
        at = four(entry(entries)).unwrap_or(0);
    }
    found
}

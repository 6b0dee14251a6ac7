namespace EvenThimble.Core.Files;

/// <summary>Writes a file wholly or not at all.</summary>
public static class AtomicFile
{
    /// <summary>Writes to a temporary name in the same folder, flushes to the disk, then renames.</summary>
    /// <exception cref="IOException">The disk is full or the folder cannot be written; what was there before is still there.</exception>
    public static void Write(string path, ReadOnlySpan<byte> bytes)
    {
        var temporary = Path.Combine(Path.GetDirectoryName(path)!, $".{Guid.NewGuid():N}.part");
        try
        {
            using (var stream = new FileStream(temporary, FileMode.CreateNew, FileAccess.Write, FileShare.None))
            {
                stream.Write(bytes);
                stream.Flush(flushToDisk: true);
            }

            File.Move(temporary, path, overwrite: true);
        }
        finally
        {
            File.Delete(temporary);
        }
    }
}

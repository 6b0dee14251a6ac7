using EvenThimble.Core.Files;

namespace EvenThimble.Equipment;

/// <summary>A file cannot be put where it should go; the message is a sentence for the user.</summary>
public sealed class EquipmentException(string message) : Exception(message);

/// <summary>A file in a drawer.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Bytes">Its size.</param>
/// <param name="Version">Changes whenever its content does.</param>
public sealed record DrawerFile(string Name, long Bytes, string Version);

/// <summary>A folder that files lie flat in: the memory of a machine, or a stick with a size. Nothing outside it is touched; links, pipes and folders in it are passed over.</summary>
/// <param name="folder">The folder; made when it is missing.</param>
/// <param name="capacity">How many bytes it holds; null: as many as the disk.</param>
public sealed class FileDrawer(string folder, long? capacity = null)
{
    private const int LongestName = 120;

    // One at a time decides whether a name is free and there is room, and writes.
    private readonly Lock _writing = new();

    /// <summary>How many bytes it holds, or null.</summary>
    public long? Capacity => capacity;

    /// <summary>How many bytes its files take.</summary>
    public long Used => Files().Sum(f => f.Bytes);

    /// <summary>Its files by name. What is being written does not count yet; what vanishes meanwhile is not there.</summary>
    /// <exception cref="EquipmentException">The folder cannot be read.</exception>
    public IReadOnlyList<DrawerFile> Files()
    {
        try
        {
            Directory.CreateDirectory(folder);
            return [.. Directory.EnumerateFileSystemEntries(folder).Select(Path.GetFileName).OfType<string>().Where(IsPossible).Select(Existing).OfType<DrawerFile>().OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase)];
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new EquipmentException("The folder of this device cannot be read. Allow reading and writing it, and load this page again.");
        }
    }

    /// <summary>Whether a file of that name is there, in any case of letters.</summary>
    public bool Has(string name) => Named(name) is not null;

    /// <summary>The bytes of a file.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="most">A larger file is not read.</param>
    /// <exception cref="EquipmentException">There is none of that name, it is larger, or it cannot be read.</exception>
    public byte[] Read(string name, long most = int.MaxValue)
    {
        try
        {
            if (Named(name) is not { } file) throw new EquipmentException($"There is no file {name} here.");
            if (file.Bytes > most) throw new EquipmentException($"{file.Name} is larger than any file that is read here.");
            return File.ReadAllBytes(PathOf(file.Name));
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new EquipmentException($"{name} cannot be read; it was taken away, or reading it is not allowed.");
        }
    }

    /// <summary>Puts a file in, whole or not at all.</summary>
    /// <exception cref="EquipmentException">The name is not possible or taken, or there is no room; nothing was changed.</exception>
    public void Put(string name, byte[] bytes, bool replace)
    {
        lock (_writing) PutAlone(name, bytes, replace);
    }

    /// <summary>Puts a file in under the wanted name or, where that is taken, with a number before its ending; the name it got.</summary>
    /// <exception cref="EquipmentException">The name is not possible, or there is no room; nothing was changed.</exception>
    public string PutBeside(string name, byte[] bytes)
    {
        lock (_writing)
        {
            var free = FreeName(name);
            PutAlone(free, bytes, replace: false);
            return free;
        }
    }

    /// <summary>Takes a file out. False when it was not there.</summary>
    /// <exception cref="EquipmentException">It cannot be taken out.</exception>
    public bool Delete(string name)
    {
        lock (_writing)
        {
            if (Named(name) is not { } file) return false;
            try
            {
                File.Delete(PathOf(file.Name));
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                throw new EquipmentException($"{file.Name} cannot be deleted; the folder of this device does not allow it.");
            }

            return true;
        }
    }

    /// <summary>A name that is not taken: the wanted one, or with a number before its ending.</summary>
    public string FreeName(string name)
    {
        var (stem, ending) = (Path.GetFileNameWithoutExtension(name), Path.GetExtension(name));
        var taken = Files().Select(f => f.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        return Enumerable.Range(1, int.MaxValue).Select(n => n == 1 ? name : $"{stem}-{n}{ending}").First(n => !taken.Contains(n));
    }

    private void PutAlone(string name, byte[] bytes, bool replace)
    {
        if (!IsPossible(name)) throw new EquipmentException("That file name is not possible: no / \\ : * ? \" < > |, no dot or space at its beginning, at most 120 letters.");
        var there = Named(name);
        if (there is null && FileKind.Of(PathOf(name)) is not null) throw new EquipmentException($"Something that is no file has the name {name} here. Choose another name.");
        if (there is not null && !replace) throw new EquipmentException($"There is a file {there.Name} already. Choose another name, or replace it.");
        if (capacity is { } most && Used - (there?.Bytes ?? 0) + bytes.Length > most)
            throw new EquipmentException($"There is no room for {name}: it needs {bytes.Length / 1024 + 1:N0} kB, and {Math.Max(0, most - Used) / 1024:N0} kB are free. Delete something there first.");
        try
        {
            Directory.CreateDirectory(folder);
            AtomicFile.Write(PathOf(there?.Name ?? name), bytes, replace);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new EquipmentException($"{name} could not be written: the disk is full or does not allow it, or something else has that name. What was there before is still there.");
        }
    }

    /// <summary>The file of a name; where there is none spelled so, one that differs in the case of letters.</summary>
    private DrawerFile? Named(string name) => IsPossible(name) ? Existing(name) ?? Files().FirstOrDefault(f => f.Name.Equals(name, StringComparison.OrdinalIgnoreCase)) : null;

    private DrawerFile? Existing(string name) =>
        FileKind.Of(PathOf(name)) is { IsRegular: true } kind ? new(name, kind.Bytes, $"{kind.Identity} {kind.Bytes} {File.GetLastWriteTimeUtc(PathOf(name)).Ticks}") : null;

    private string PathOf(string name) => Path.Combine(folder, name);

    private static bool IsPossible(string name) =>
        name.Length is > 0 and <= LongestName && !name.StartsWith('.') && name.Trim() == name && name.IndexOfAny(['/', '\\', ':', '*', '?', '"', '<', '>', '|']) < 0 && !name.Any(c => char.IsControl(c) || c == '\uFFFD');
}

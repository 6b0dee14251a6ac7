namespace EvenThimble.Core.Text;

/// <summary>Something that is not done; the message is one sentence for the user: what, where, what to do. Nothing was changed.</summary>
public abstract class RefusedException(string message) : Exception(message);

/// <summary>An edit that cannot be done.</summary>
public sealed class EditRefusedException(string message) : RefusedException(message);

/// <summary>A file that cannot be read or written.</summary>
public sealed class StitchFileException(string message) : RefusedException(message);

/// <summary>Work that would take longer, or more memory, than anybody should wait for.</summary>
public sealed class TooMuchWorkException(string message) : RefusedException(message);
